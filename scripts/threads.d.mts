/** Compiles `assembly/` to `build/kernels.wasm`. */
export function buildKernels(): Promise<void>;
/** Bundles the server's thread to `build/heavy.mjs`. */
export function buildServerThread(): Promise<void>;
