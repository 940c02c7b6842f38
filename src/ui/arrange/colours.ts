import type { Colour, Pattern } from "@/core/score";

/** The ink of a pattern's colour, of the theme in force. */
export const colourInk = (colour: Colour | undefined): string =>
  colour ? `var(--pattern-${colour})` : "var(--sheet-dimple-beat)";

export const patternInk = ({ colour }: Pick<Pattern, "colour">): string => colourInk(colour);
