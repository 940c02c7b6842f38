/** Made once: a formatter takes as long to make as hundreds of numbers to write. */
const FIGURES = new Intl.NumberFormat("en-GB");

/** A count with its noun: “1 note”, “3 notes”. `noun` takes an s in the plural. */
export const plural = (count: number, noun: string): string =>
  `${FIGURES.format(count)} ${noun}${count === 1 ? "" : "s"}`;
