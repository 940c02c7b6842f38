import { expose } from "comlink";
import { type ReadOptions, readFile } from "@/core/formats";

/** Reading of files, away from the page. */
const desk = {
  /** What a file holds; what is wrong with it is thrown as it is said. */
  read: (bytes: Uint8Array, name: string, options: ReadOptions) => readFile(bytes, name, options),
};
export type ReadingDesk = typeof desk;

expose(desk);
