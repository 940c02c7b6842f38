import { type Metre, barTicks, beatTicks, beatsInBar } from "../time";
import { type Key, readChord } from "../pitch";
import type { ChordMark } from "./model";
import { nth } from "../base";

/**
 * Reads chords as a lead sheet writes them: bars with `|` between them, several chords of a bar with a space,
 * shared out over its beats. Names, or degrees of the key. An empty bar holds on. What is no chord is named.
 */
export function chordsOfText(
  text: string,
  metre: Metre,
  key: Key,
  idOf: () => string,
): { chords: ChordMark[] } | { wrong: string } {
  const chords: ChordMark[] = [];
  const bars = text.split("|");
  for (const [bar, written] of bars.entries()) {
    const names = written.split(/\s+/).filter(Boolean);
    const beats = beatsInBar(metre);
    if (names.length > beats) {
      return {
        wrong: `Bar ${bar + 1} holds ${names.length} chords; its ${beats} beats hold one each`,
      };
    }
    for (const [i, given] of names.entries()) {
      const none = /^n\.?c\.?$/i.test(given);
      const name = none ? "" : readChord(given, key);
      if (name === null) return { wrong: `“${given}” in bar ${bar + 1} is no chord` };
      const beat = Math.floor((i * beats) / names.length);
      const start = bar * barTicks(metre) + beat * beatTicks(metre);
      chords.push({ id: idOf(), start, name, inversion: 0, spread: "close" });
    }
  }
  return { chords };
}

/** Chords as `chordsOfText` reads them, bar by bar. */
export function textOfChords(chords: readonly ChordMark[], metre: Metre): string {
  const bar = barTicks(metre);
  const bars: string[][] = [];
  for (const { start, name } of chords) {
    const at = Math.floor(start / bar);
    while (bars.length <= at) bars.push([]);
    nth(bars, at).push(name || "N.C.");
  }
  return bars.map((names) => names.join(" ")).join(" | ");
}
