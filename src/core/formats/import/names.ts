import { LIMITS } from "../../score";

/** A name with a number behind it, where it is taken. */
export function nextFree(name: string, taken: readonly string[]): string {
  let free = name;
  for (let n = 2; taken.includes(free); n++) free = `${name.slice(0, LIMITS.name - 4)} ${n}`;
  return free;
}

/** Characters that are not seen: controls (C0, C1), and marks of writing direction (Unicode, “Bidi_Control”). */
const UNSEEN = /[\u0000-\u001f\u007f-\u009f\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]+/g;

/** A name as the model allows: nothing unseen in it or around it, no longer than its limit, no half of a character. */
export const nameOf = (text: string): string =>
  text
    .replace(UNSEEN, " ")
    .trim()
    .slice(0, LIMITS.name)
    .replace(/[\uD800-\uDBFF]$/, "")
    .trim();
