import { expose } from "comlink";
import { generateDrumIdeas, generateIdeas } from "@/core";

/** Generating, away from the page. Both throw a RangeError for options that make no sense. */
const generator = { line: generateIdeas, drums: generateDrumIdeas };
export type Generator = typeof generator;

expose(generator);
