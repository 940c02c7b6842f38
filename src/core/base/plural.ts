/** A count with its noun: “1 note”, “3 notes”. `noun` takes an s in the plural. */
export const plural = (count: number, noun: string): string =>
  `${count.toLocaleString("en-GB")} ${noun}${count === 1 ? "" : "s"}`;
