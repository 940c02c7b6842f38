import type { Colour, Pattern } from "@/core/score";

/** The ink of a pattern's colour, of the theme in force. */
export const cssColour = (colour: Colour | undefined): string =>
  colour ? `var(--pattern-${colour})` : "var(--sheet-dimple-beat)";

export const patternColour = ({ colour }: Pick<Pattern, "colour">): string => cssColour(colour);
