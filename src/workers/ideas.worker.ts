import { expose } from "comlink";
import { generateDrumIdeas, generateIdeas, generateProgressions } from "@/core/generate";

/** Generating, away from the page. All throw a RangeError for options that make no sense. */
const generator = { line: generateIdeas, drums: generateDrumIdeas, chords: generateProgressions };
export type Generator = typeof generator;

expose(generator);
