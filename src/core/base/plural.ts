/** Made once: a formatter takes as long to make as hundreds of numbers to write. */
const FIGURES = new Intl.NumberFormat("en-GB");

/** A place in an order: “1st”, “2nd”, “11th”, “23rd”. */
export function ordinal(n: number): string {
  const tens = n % 100;
  const ending = tens > 10 && tens < 14 ? "th" : (["th", "st", "nd", "rd"][n % 10] ?? "th");
  return `${n}${ending}`;
}

/** A count with its noun: “1 note”, “3 notes”. `noun` takes an s in the plural. */
export const plural = (count: number, noun: string): string =>
  `${FIGURES.format(count)} ${noun}${count === 1 ? "" : "s"}`;
