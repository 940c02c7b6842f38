declare module "verovio/wasm" {
  export default function createModule(): Promise<unknown>;
}
declare module "verovio/esm" {
  export class VerovioToolkit {
    constructor(module: unknown);
    setOptions(options: object): void;
    loadData(text: string): boolean | number;
    renderToMIDI(): string;
  }
}
