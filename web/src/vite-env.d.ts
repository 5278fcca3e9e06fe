/// <reference types="vite-plugin-pwa/client" />

/** Which API this front end was built against. */
declare const __CONTRACT__: string
