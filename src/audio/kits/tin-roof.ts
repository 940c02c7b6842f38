import type { Kit } from "./kit";
import { bell, burst, clap, crushed, cymbal, kick, knock, shaken, snare, struck } from "./voices";

/** Coarse and metallic, as if played on scrap and kept on something cheap. */
export const tinRoof: Kit = {
  id: "tin-roof",
  label: "Tin roof kit",
  about: "Coarse, clanging, crunchy: scrap metal on cheap memory",
  pads: {
    35: crushed(kick(170, 46, 0.03, 0.18, 0.9), 7, 10, 0.82),
    36: crushed(kick(300, 62, 0.016, 0.1, 0.9), 6, 12, 0.82),
    37: crushed(struck(1220, 2.76, 3, 0.05, 0.8), 4, 16, 0.7),
    38: crushed(snare(236, 0.07, 0.12, 1900, 0.9), 6, 9, 0.86),
    39: crushed(clap(1500, 0.05, 0.9), 7, 8, 0.8),
    40: crushed(burst(1800, 0.5, 0.06, 0.9), 9, 7, 0.72),
    42: crushed(struck(5230, 1.37, 5, 0.03, 0.8), 3, 12, 0.54),
    44: crushed(struck(4710, 1.37, 5, 0.02, 0.8), 3, 12, 0.48),
    45: crushed(struck(118, 1.41, 4, 0.2, 0.9, 1.2), 5, 14, 0.8),
    46: crushed(struck(5230, 1.37, 7, 0.2, 0.8), 3, 12, 0.5),
    47: crushed(struck(163, 1.41, 4, 0.18, 0.9, 1.2), 5, 14, 0.8),
    49: crushed(cymbal(390, 0.5, 3000, 0.7, 2, 0.8), 4, 10, 0.52),
    50: crushed(struck(221, 1.41, 4, 0.16, 0.9, 1.2), 5, 14, 0.78),
    51: crushed(struck(2350, 1.71, 4, 0.3, 0.8), 3, 14, 0.44),
    54: crushed(shaken(4800, 0.09, 2, 0.8), 5, 10, 0.54),
    56: crushed(bell(741, 1107, 0.16, 0.8), 4, 12, 0.5),
    70: crushed(shaken(4200, 0.05, 0, 0.8), 7, 8, 0.54),
    75: crushed(knock(3110, 1.21, 0.02, 0.8), 3, 16, 0.56),
  },
};
