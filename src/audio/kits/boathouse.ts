import type { Kit } from "./kit";
import { bell, clap, cymbal, kick, knock, roomy, shaken, snare, tom } from "./voices";

/** Big skins in a wooden room: everything rings on. */
export const boathouse: Kit = {
  id: "boathouse",
  label: "Boathouse kit",
  about: "Deep skins and long cymbals in a wooden room",
  pads: {
    35: roomy(kick(88, 41, 0.07, 0.3, 0.9), 0.5, 0.35, 0.86),
    36: roomy(kick(110, 52, 0.05, 0.2, 0.9), 0.5, 0.4, 0.84),
    37: roomy(knock(980, 1.51, 0.03, 0.9), 0.6, 0.6, 0.74),
    38: roomy(snare(148, 0.16, 0.22, 900, 0.9), 0.7, 0.5, 0.92),
    39: roomy(clap(900, 0.11, 0.9), 0.8, 0.7, 0.82),
    40: roomy(snare(171, 0.2, 0.11, 1300, 0.9), 0.6, 0.5, 0.8),
    42: roomy(cymbal(356, 0.06, 5200, 0.6, 0.3, 0.8), 0.3, 0.35, 0.56),
    44: roomy(cymbal(340, 0.04, 4700, 0.5, 0.2, 0.8), 0.3, 0.35, 0.5),
    45: roomy(tom(71, 0.9, 0.34), 0.7, 0.4, 0.88),
    46: roomy(cymbal(356, 0.4, 5000, 0.6, 1.4, 0.8), 0.5, 0.35, 0.52),
    47: roomy(tom(97, 0.9, 0.31), 0.7, 0.4, 0.86),
    49: roomy(cymbal(271, 0.9, 3300, 1, 3.2, 0.8), 0.6, 0.3, 0.54),
    50: roomy(tom(134, 0.9, 0.28), 0.7, 0.4, 0.84),
    51: roomy(cymbal(447, 0.6, 4200, 0.2, 2.4, 0.8), 0.5, 0.3, 0.46),
    54: roomy(shaken(5400, 0.1, 1, 0.8), 0.4, 0.4, 0.56),
    56: roomy(bell(432, 647, 0.22, 0.7), 0.5, 0.4, 0.5),
    70: roomy(shaken(3600, 0.07, 0, 0.8), 0.3, 0.4, 0.56),
    75: roomy(knock(1430, 1.03, 0.045, 0.8), 0.5, 0.6, 0.6),
  },
};
