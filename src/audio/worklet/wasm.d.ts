declare module "*.wasm" {
  const program: Uint8Array<ArrayBuffer>;
  export default program;
}
