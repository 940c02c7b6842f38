/** A pan from −100 to 100 as people read it: `L 20`, `centre`, `R 35`. */
export const panText = (value: number): string =>
  value === 0 ? "centre" : value < 0 ? `L ${-value}` : `R ${value}`;

/** `L 20`, `r20`, `-20`, `centre`: −100 (left) to 100 (right), or null. */
export function parsePan(text: string): number | null {
  const found = /^\s*([lr]?)\s*(-?\d+)\s*$/i.exec(text);
  if (/^\s*(m|c|0)/i.test(text) && !found) return 0;
  if (!found) return null;
  return found[1]?.toLowerCase() === "l" ? -Number(found[2]) : Number(found[2]);
}
