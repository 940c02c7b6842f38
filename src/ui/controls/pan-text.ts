export const panText = (v: number) => (v === 0 ? "middle" : v < 0 ? `L ${-v}` : `R ${v}`);

/** `L 20`, `r20`, `-20`, `middle`. */
export function parsePan(text: string): number | null {
  const found = /^\s*([lr]?)\s*(-?\d+)\s*$/i.exec(text);
  if (/^\s*(m|c|0)/i.test(text) && !found) return 0;
  if (!found) return null;
  return found[1]?.toLowerCase() === "l" ? -Number(found[2]) : Number(found[2]);
}
