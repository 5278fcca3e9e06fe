/// <reference types="vite-plugin-pwa/react" />

/** Which API this front end was built against. */
declare const __CONTRACT__: string
