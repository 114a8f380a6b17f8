/** A font as the bundler gives it: its address. */
declare module '*.woff2' {
  const address: string | { uri: string };
  export default address;
}
