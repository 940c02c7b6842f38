import { LIMITS } from "../../score";

/** A name with a number behind it, where it is taken. */
export function nextFree(name: string, taken: readonly string[]): string {
  let free = name;
  for (let n = 2; taken.includes(free); n++) free = `${name.slice(0, LIMITS.name - 4)} ${n}`;
  return free;
}

/** A name as the model allows: no spaces around it, no longer than its limit, no half of a character. */
export const nameOf = (text: string): string =>
  text
    .trim()
    .slice(0, LIMITS.name)
    .replace(/[\uD800-\uDBFF]$/, "")
    .trim();
