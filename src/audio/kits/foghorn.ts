import type { Kit } from "./kit";
import {
  bell,
  both,
  burst,
  clap,
  cymbal,
  driven,
  kick,
  knock,
  shaken,
  struck,
  tom,
} from "./voices";

/** Low, loud and electric: kicks that ring like a horn, noise that stops as if cut. */
export const foghorn: Kit = {
  id: "foghorn",
  label: "Foghorn kit",
  about: "Long driven low end, noise cut off short: heavy and electric",
  pads: {
    35: driven(kick(150, 33, 0.06, 0.5, 0.9), 1.6, 0.88),
    36: driven(kick(260, 41, 0.035, 0.34, 0.9), 2.4, 0.86),
    37: driven(knock(2150, 1.33, 0.012, 0.9), 2, 0.7),
    38: driven(
      both(struck(196, 1, 0, 0.09, 0.9, 1.8), burst(2300, 0.4, 0.3, 0.9, 0.17), 0.62, 0.9),
      1.8,
      0.86,
    ),
    39: driven(clap(1700, 0.05, 0.9), 2.2, 0.8),
    40: driven(burst(3400, 0.35, 0.2, 0.9, 0.11), 1.6, 0.74),
    42: driven(cymbal(617, 0.028, 8600, 0.3, 0.15, 0.8), 1.4, 0.58),
    44: driven(cymbal(590, 0.016, 8000, 0.3, 0.1, 0.8), 1.4, 0.5),
    45: driven(tom(62, 0.9, 0.3), 1.8, 0.86),
    46: driven(cymbal(617, 0.3, 8200, 0.3, 1.2, 0.8), 1.4, 0.52),
    47: driven(tom(88, 0.9, 0.27), 1.8, 0.84),
    49: driven(cymbal(470, 0.8, 5200, 1.4, 2.8, 0.8), 1.3, 0.54),
    50: driven(tom(123, 0.9, 0.24), 1.8, 0.82),
    51: driven(cymbal(733, 0.35, 6100, 0.1, 1.5, 0.8), 1.3, 0.46),
    54: driven(shaken(7400, 0.06, 1.4, 0.8), 1.5, 0.54),
    56: driven(bell(512, 771, 0.2, 0.8), 1.4, 0.5),
    70: driven(shaken(6400, 0.03, 0, 0.8), 1.5, 0.56),
    75: driven(struck(2900, 1.5, 0.6, 0.02, 0.8), 1.5, 0.56),
  },
};
