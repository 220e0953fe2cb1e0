declare module '*.wasm?url' {
  /** where the built page finds the file */
  const url: string;
  export default url;
}
