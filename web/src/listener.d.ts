declare module '*.js?url&no-inline' {
  const address: string
  export default address
}
