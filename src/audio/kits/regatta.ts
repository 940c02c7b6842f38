import type { Kit } from "./kit";
import { bell, both, burst, clap, cymbal, driven, kick, knock, shaken, snare, tom } from "./voices";

/** Made for dancing: a kick that punches and stops, wide claps, hats that hiss open. */
export const regatta: Kit = {
  id: "regatta",
  label: "Regatta kit",
  about: "Punchy kick, wide snappy claps, hats that hiss: bright and made for dancing",
  pads: {
    35: kick(210, 52, 0.02, 0.16, 0.84),
    36: driven(kick(340, 50, 0.018, 0.19, 0.9), 1.3, 0.88),
    37: knock(1480, 1.7, 0.012, 0.7),
    38: both(snare(210, 0.07, 0.16, 1900, 0.9), burst(4200, 0.5, 0.09, 0.9), 0.35, 0.86),
    39: clap(1500, 0.12, 0.88),
    40: both(snare(240, 0.05, 0.11, 2400, 0.8), clap(1900, 0.06, 0.8), 0.4, 0.76),
    42: cymbal(489, 0.032, 8900, 1.3, 0.18, 0.58),
    44: cymbal(470, 0.02, 8400, 1.2, 0.12, 0.48),
    45: tom(82, 0.86, 0.22),
    46: cymbal(489, 0.36, 8300, 1.5, 1.3, 0.56),
    47: tom(112, 0.84, 0.2),
    49: cymbal(372, 0.9, 5200, 1.8, 2.8, 0.52),
    50: tom(150, 0.82, 0.18),
    51: cymbal(604, 0.5, 6400, 0.3, 1.8, 0.44),
    54: shaken(7800, 0.09, 1.2, 0.56),
    56: bell(587, 880, 0.16, 0.48),
    70: shaken(7000, 0.06, 0, 0.56),
    75: knock(2350, 1.5, 0.02, 0.58),
  },
};
