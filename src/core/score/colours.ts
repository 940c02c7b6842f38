/** What patterns are told apart by: names of inks, which the interface gives their values. */
export const COLOURS = ["rust", "amber", "moss", "teal", "slate", "plum"] as const;
export type Colour = (typeof COLOURS)[number];
