import { nth } from "@/core/base";

/** What can be found by typing: by its name, its group, and other words for it. */
export interface Findable {
  label: string;
  group: string;
  words: readonly string[];
}

const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/** How well one typed word fits, 0–1: whole words before beginnings, its name before other words. */
function fit(typed: string, label: readonly string[], others: readonly string[]): number {
  if (label.includes(typed)) return label[0] === typed ? 0.95 : 0.85;
  if (others.includes(typed)) return 0.75;
  if (nth(label, 0).startsWith(typed)) return 0.7;
  if (label.some((word) => word.startsWith(typed))) return 0.6;
  if (others.some((word) => word.startsWith(typed))) return 0.5;
  return label.some((word) => word.includes(typed)) ? 0.2 : 0;
}

/**
 * How well something answers to what was typed, from 0 (not at all) to 1 (its very name). Every word
 * typed must be found in its name, its group or its other words.
 */
export function scoreOf(thing: Findable, search: string): number {
  const typed = wordsOf(search);
  if (typed.length === 0) return 1;
  const label = wordsOf(thing.label);
  if (label.join(" ") === typed.join(" ")) return 1;
  const others = [...thing.words, ...wordsOf(thing.group)];
  const fits = typed.map((word) => fit(word, label, others));
  if (fits.includes(0)) return 0;
  return fits.reduce((sum, f) => sum + f, 0) / fits.length;
}
