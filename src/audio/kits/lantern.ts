import type { Kit } from "./kit";
import { both, burst, clap, cymbal, kick, knock, roomy, shaken, struck, tom } from "./voices";

/** Soft and late at night: felt, breath and skin in a small room. */
export const lantern: Kit = {
  id: "lantern",
  label: "Lantern kit",
  about: "Felt mallets, breath and soft skins: quiet and close",
  pads: {
    35: kick(70, 40, 0.05, 0.2, 0.8),
    36: kick(84, 44, 0.06, 0.22, 0.84),
    37: roomy(struck(820, 1.9, 0.3, 0.02, 0.8), 0.16, 0.25, 0.6),
    38: roomy(
      both(struck(168, 1, 0, 0.07, 0.9, 1.3), burst(1200, 0.4, 0.16, 0.9), 0.6, 0.9),
      0.2,
      0.3,
      0.84,
    ),
    39: roomy(clap(760, 0.09, 0.8), 0.2, 0.3, 0.74),
    40: burst(900, 0.5, 0.13, 0.62),
    42: burst(5200, 0.8, 0.035, 0.42),
    44: burst(4300, 0.8, 0.02, 0.36),
    45: roomy(tom(74, 0.9, 0.2), 0.22, 0.2, 0.8),
    46: burst(4700, 0.6, 0.24, 0.42),
    47: roomy(tom(99, 0.9, 0.19), 0.22, 0.2, 0.78),
    49: roomy(cymbal(250, 0.7, 2600, 1.6, 2.4, 0.8), 0.3, 0.2, 0.44),
    50: roomy(tom(132, 0.9, 0.18), 0.22, 0.2, 0.76),
    51: cymbal(331, 0.4, 3300, 0.7, 1.6, 0.36),
    54: shaken(3600, 0.09, 0.2, 0.44),
    56: struck(540, 2.76, 0.5, 0.12, 0.44),
    70: shaken(3100, 0.055, 0, 0.48),
    75: roomy(knock(940, 1.5, 0.03, 0.8), 0.16, 0.25, 0.52),
  },
};
