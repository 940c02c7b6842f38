import { readNumber } from "@/core/base";

/** A number with what stands after it, as in `+3 st`, `1.2 kHz`, `50 %`. */
const SHOWN = /^\D*?([-+−]?\d+(?:\.\d+)?)\s*(\D*?)\s*$/;

/**
 * Reads a number as a field shows it: with the unit, or one of the units, it is written with there. Without one it
 * is the value itself. `examples` are values of the field.
 */
export function numberReader(
  format: (value: number) => string,
  examples: readonly number[],
): (text: string) => number | null {
  const factors = new Map<string, number>();
  for (const value of examples) {
    const found = SHOWN.exec(format(value));
    const shown = Number(found?.[1]?.replace("−", "-"));
    const unit = found?.[2]?.toLowerCase() ?? "";
    if (!found || !shown || !value || factors.has(unit)) continue;
    // Shown in thousands, or hundredths: by a power of ten, however the figure was rounded.
    factors.set(unit, 10 ** Math.round(Math.log10(Math.abs(value / shown))));
  }
  // A step is read where steps are shown.
  for (const [unit, factor] of [...factors]) {
    if (unit.endsWith("s") && unit.length > 2) factors.set(unit.slice(0, -1), factor);
  }
  const native = [...factors].find(([unit, factor]) => unit !== "" && factor === 1)?.[0] ?? "";
  return (text) => {
    const plain = readNumber(text, native);
    if (plain !== null) return plain;
    for (const [unit, factor] of factors) {
      const value = unit === "" ? null : readNumber(text, unit);
      if (value !== null) return value * factor;
    }
    return null;
  };
}
