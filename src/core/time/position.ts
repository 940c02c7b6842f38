import { type Bpm, type Ticks, plural, readNumber } from "../base";
import { PPQ, barTicks, beatTicks, msToTicks, type Metre } from "./ticks";

const SIXTEENTH = PPQ / 4;

/** `bar.beat.sixteenth+ticks`, counted from 1; the `+ticks` part is left out when 0. */
export function formatPosition(tick: Ticks, metre: Metre): string {
  const bar = Math.floor(tick / barTicks(metre));
  let rest = tick - bar * barTicks(metre);
  const beat = Math.floor(rest / beatTicks(metre));
  rest -= beat * beatTicks(metre);
  const sixteenth = Math.floor(rest / SIXTEENTH);
  rest = Math.round(rest - sixteenth * SIXTEENTH);
  return `${bar + 1}.${beat + 1}.${sixteenth + 1}${rest ? `+${rest}` : ""}`;
}

/** Reads what `formatPosition` writes; `2`, `2.3` and `2.3.1+14` are all valid. Null when it is none. */
export function parsePosition(text: string, metre: Metre): number | null {
  const found = /^\s*(-?\d+)(?:\.(\d+))?(?:\.(\d+))?(?:\+(\d+))?\s*$/.exec(text);
  if (!found) return null;
  const [bar, beat, sixteenth, ticks] = [1, 2, 3, 4].map((i) => found[i]);
  return (
    (Number(bar) - 1) * barTicks(metre) +
    (Number(beat ?? 1) - 1) * beatTicks(metre) +
    (Number(sixteenth ?? 1) - 1) * SIXTEENTH +
    Number(ticks ?? 0)
  );
}

/**
 * A length as a note value where it is one (`1/16`, `1/8T`, `1/4.`), else in ticks (`250 t`).
 */
export function formatLength(ticks: Ticks): string {
  for (let value = 1; value <= 128; value *= 2) {
    const straight = (4 * PPQ) / value;
    if (ticks === straight) return `1/${value}`;
    if (ticks * 3 === straight * 2) return `1/${value}T`;
    if (ticks * 2 === straight * 3) return `1/${value}.`;
  }
  return `${ticks} t`;
}

/** Reads a length: a note value (`1/8`, `1/8T`, `1/8.`) or ticks (`250`, `250 t`). Null when it is none. */
export function parseLength(text: string): number | null {
  const value = /^\s*1\/(\d+)\s*([tT.]?)\s*$/.exec(text);
  if (value) {
    const ticks = (4 * PPQ) / Number(value[1]);
    const factor = value[2] === "." ? 3 / 2 : value[2] ? 2 / 3 : 1;
    const whole = ticks * factor;
    return Number.isInteger(whole) && whole >= 1 ? whole : null;
  }
  const plain = /^\s*(\d+)\s*t?\s*$/.exec(text);
  return plain && Number(plain[1]) >= 1 ? Number(plain[1]) : null;
}

/** Reads a stretch of time: what `parseLength` reads, or `300 ms` and `0.3 s` at a tempo, in ticks. */
export function parseTicks(text: string, tempo: Bpm): Ticks | null {
  const ms = /s\s*$/i.test(text) ? readNumber(text, "ms") : null;
  return ms === null ? parseLength(text) : Math.round(msToTicks(ms, tempo));
}

/** A loop's length as people count it: `2 bars`, `1 bar 2 beats`, `3 beats`, with what is left in ticks. */
export function formatLoop(ticks: Ticks, metre: Metre): string {
  const [bar, beat] = [barTicks(metre), beatTicks(metre)];
  const bars = Math.floor(ticks / bar);
  const beats = Math.floor((ticks - bars * bar) / beat);
  const rest = ticks - bars * bar - beats * beat;
  const words = [
    bars > 0 && plural(bars, "bar"),
    beats > 0 && plural(beats, "beat"),
    rest > 0 && `${rest} t`,
  ];
  return words.filter(Boolean).join(" ");
}
