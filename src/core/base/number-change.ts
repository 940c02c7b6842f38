import { clamp } from "./clamp";

/** What is done to a number, or to several at once: set to one value, or changed by as much or as many times. */
export type NumberChange =
  { how: "set"; to: number } | { how: "shift"; by: number } | { how: "scale"; by: number };

/** Reads a value or an amount from text; null where it is none. */
type Read = (text: string) => number | null;

/**
 * What is typed into a field of a number, the same in all of them: `+20`, `-20`, `*1.5` and `/2` change what is
 * there, whatever values the field takes; anything else is a value, and `=` before it says so (`=-20`). A minus
 * as it is printed (`−20`) belongs to the value, so that what a field shows reads as what it shows. Values go
 * through `read`, amounts of a change through `readAmount`. Null for what is neither.
 */
export function readNumberChange(
  text: string,
  read: Read,
  readAmount: Read = read,
): NumberChange | null {
  const found = /^\s*([=+\-*x×/]?)\s*(.*?)\s*$/s.exec(text);
  const [, sign = "", rest = ""] = found ?? [];
  if (rest === "") return null;
  if (sign === "" || sign === "=") return changeOf("set", read(rest.replace(/^−\s*/, "-")));
  if (sign === "+" || sign === "-") {
    const by = /^\d|^[.,]\d/.test(rest) ? readAmount(rest) : null;
    return changeOf("shift", by === null || sign === "+" ? by : -by);
  }
  const times = readNumber(rest);
  if (times === null || times < 0 || (sign === "/" && times === 0)) return null;
  return changeOf("scale", sign === "/" ? 1 / times : times);
}

function changeOf(how: NumberChange["how"], value: number | null): NumberChange | null {
  if (value === null || !Number.isFinite(value)) return null;
  return how === "set" ? { how, to: value } : { how, by: value };
}

/** So many of the second unit are one of the first. */
const CONVERTED: Readonly<Record<string, readonly [unit: string, factor: number]>> = {
  s: ["ms", 1000],
  ms: ["s", 0.001],
  khz: ["hz", 1000],
  hz: ["khz", 0.001],
};

/**
 * A number as it is typed, with a comma or a point, alone or with its unit: `12`, `-0,5`, `300 ms`, `0.3 s` where
 * the unit is ms. Null for anything else, another unit too.
 */
export function readNumber(text: string, unit = ""): number | null {
  const found = /^\s*(-?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(\D*?)\s*$/.exec(text);
  if (!found) return null;
  const [, digits = "", typed = ""] = found;
  const value = Number(digits.replace(",", "."));
  const [said, own] = [typed.toLowerCase(), unit.toLowerCase()];
  if (said === "" || said === own) return value;
  const [to, factor] = CONVERTED[said] ?? [];
  return to === own && factor !== undefined ? value * factor : null;
}

/**
 * Values after a change of all of them. Set, all are the same; else the differences stay (or the ratios), as far
 * as all can go together: at an end of the range none moves on, so that nothing is flattened.
 */
export function changedTogether(
  values: readonly number[],
  change: NumberChange,
  { min, max }: { min: number; max: number },
): number[] {
  if (change.how === "set") return values.map(() => clamp(change.to, min, max));
  const low = values.reduce((a, b) => Math.min(a, b), Infinity);
  const high = values.reduce((a, b) => Math.max(a, b), -Infinity);
  if (change.how === "shift") {
    // What already lies beyond an end holds nothing back, and goes no farther.
    const by =
      change.by > 0
        ? Math.min(change.by, Math.max(0, max - high))
        : Math.max(change.by, Math.min(0, min - low));
    return values.map((value) => value + by);
  }
  const space = (value: number) =>
    value > 0 ? Math.max(1, max / value) : value < 0 ? Math.max(1, min / value) : Infinity;
  const least = (value: number) => (min > 0 && value > 0 ? Math.min(1, min / value) : 0);
  const most = values.reduce((a, value) => Math.min(a, space(value)), Infinity);
  const fewest = values.reduce((a, value) => Math.max(a, least(value)), 0);
  const by = Math.max(fewest, Math.min(most, change.by));
  return values.map((value) => value * by);
}
