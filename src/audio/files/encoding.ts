/** Makes a file of pieces of sound. */
export interface Encoding {
  add(sides: readonly Float32Array[]): void;
  done(): Blob;
}
