import type { Kit } from "./kit";
import { bell, clap, cymbal, kick, knock, shaken, snare, tom } from "./voices";

/** Round kick, papery snare, short bright hats: a dry small kit. */
export const harbour: Kit = {
  id: "harbour",
  label: "Harbour kit",
  about: "Round kick, papery snare, short bright hats: small and dry",
  pads: {
    35: kick(120, 38, 0.05, 0.26, 0.84),
    36: kick(190, 47, 0.028, 0.145, 0.82),
    37: knock(1720, 1.47, 0.016, 0.78),
    38: snare(182, 0.1, 0.15, 1400, 0.95),
    39: clap(1250, 0.07, 0.88),
    40: snare(224, 0.055, 0.075, 2300, 0.72),
    42: cymbal(412, 0.044, 7200, 0.5, 0.22, 0.62),
    44: cymbal(398, 0.026, 6400, 0.4, 0.13, 0.52),
    45: tom(92, 0.85),
    46: cymbal(412, 0.23, 6900, 0.5, 1, 0.56),
    47: tom(128, 0.82),
    49: cymbal(318, 0.62, 4300, 0.9, 2.6, 0.55),
    50: tom(176, 0.8),
    51: cymbal(521, 0.42, 5200, 0.15, 1.8, 0.48),
    54: shaken(6200, 0.075, 0.8, 0.6),
    56: bell(563, 841, 0.13, 0.5),
    70: shaken(5200, 0.045, 0, 0.6),
    75: knock(2480, 1.02, 0.024, 0.62),
  },
};
