import { panText, parsePan } from "@/core/sound";

/** What a field for a pan from −100 to 100 is given. */
export const PAN_FIELD = {
  min: -100,
  max: 100,
  reset: 0,
  format: panText,
  parse: parsePan,
} as const;
