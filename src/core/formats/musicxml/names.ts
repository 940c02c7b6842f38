import { LIMITS } from "../../score";

/** A name with a number behind it, where it is taken. */
export function nextFree(name: string, taken: readonly string[]): string {
  let free = name;
  for (let n = 2; taken.includes(free); n++) free = `${name.slice(0, LIMITS.name - 4)} ${n}`;
  return free;
}
