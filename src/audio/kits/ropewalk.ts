import type { Kit } from "./kit";
import { both, burst, clap, kick, knock, roomy, shaken, struck, tom } from "./voices";

/** Played with the hands: skins, blocks and seeds in the open air. */
export const ropewalk: Kit = {
  id: "ropewalk",
  label: "Ropewalk kit",
  about: "Hand drums, wooden blocks and seeds: warm, dry and played with the fingers",
  pads: {
    35: tom(58, 0.86, 0.24),
    36: both(tom(66, 0.9, 0.2), kick(110, 58, 0.02, 0.1, 0.9), 0.4, 0.86),
    37: knock(980, 1.62, 0.022, 0.74),
    38: both(struck(312, 1.52, 0.9, 0.055, 0.9, 1.35), burst(2100, 0.9, 0.03, 0.9), 0.4, 0.84),
    39: clap(980, 0.035, 0.8),
    40: struck(408, 1.52, 0.7, 0.04, 0.66, 1.3),
    42: shaken(8200, 0.022, 0, 0.5),
    44: shaken(6800, 0.016, 0, 0.42),
    45: struck(112, 1.59, 0.35, 0.16, 0.84, 1.4),
    46: shaken(7400, 0.14, 0.25, 0.52),
    47: struck(158, 1.59, 0.35, 0.14, 0.82, 1.4),
    49: roomy(shaken(5200, 0.3, 2, 0.8), 0.5, 0.3, 0.5),
    50: struck(222, 1.59, 0.35, 0.12, 0.8, 1.4),
    51: both(struck(1660, 2.31, 0.8, 0.14, 0.8), shaken(6400, 0.06, 0.6, 0.8), 0.3, 0.44),
    54: shaken(5600, 0.12, 1.6, 0.54),
    56: struck(690, 1.48, 0.5, 0.1, 0.52),
    70: shaken(4600, 0.07, 0, 0.56),
    75: knock(1830, 1.31, 0.03, 0.62),
  },
};
