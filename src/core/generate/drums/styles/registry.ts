import { broken } from "./broken";
import { fourOnTheFloor } from "./four-on-the-floor";
import { halfTime } from "./half-time";
import { odd } from "./odd";
import { shuffled } from "./shuffled";
import { sparse } from "./sparse";
import { straight } from "./straight";
import type { DrumStyle } from "./style";
import { triplets } from "./triplets";

/** All ways of playing drums that ideas are asked for in. One line adds one. */
export const DRUM_STYLES: readonly DrumStyle[] = [
  straight,
  fourOnTheFloor,
  halfTime,
  broken,
  shuffled,
  triplets,
  sparse,
  odd,
];
