declare module '*.wasm' {
  /** Address of the file. */
  const url: string;
  export default url;
}
declare module '*.svg' {
  const text: string;
  export default text;
}
declare module '*.webp' {
  /** Address of the file. */
  const url: string;
  export default url;
}
