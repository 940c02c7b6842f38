/** What is left of a whole number after division, from 0 on: −1 modulo 12 is 11. */
export const modulo = (n: number, by: number): number => ((n % by) + by) % by;
