import type { Kit } from "./kit";
import { both, burst, struck } from "./voices";

/** Pure tones with hard edges, like lamps and buoys: every pad has a pitch. */
export const signal: Kit = {
  id: "signal",
  label: "Signal kit",
  about: "Clean sine blips and glassy ticks, every pad in tune",
  pads: {
    35: struck(43.65, 1, 0, 0.32, 0.86, 2.2),
    36: struck(55, 1, 0, 0.17, 0.86, 4),
    37: struck(1760, 2, 0.8, 0.018, 0.66),
    38: both(struck(220, 1, 0, 0.07, 0.9, 1.5), burst(5200, 0.8, 0.05, 0.9), 0.42, 0.82),
    39: both(burst(1480, 2.2, 0.06, 0.9), struck(740, 3, 1.2, 0.03, 0.6), 0.25, 0.76),
    40: both(struck(293.66, 1, 0, 0.05, 0.9, 1.3), burst(7000, 1, 0.03, 0.9), 0.4, 0.7),
    42: struck(7040, 1.5, 0.7, 0.016, 0.5),
    44: struck(5280, 1.5, 0.7, 0.011, 0.46),
    45: struck(110, 1, 0, 0.22, 0.84, 1.25),
    46: struck(7040, 1.5, 1.4, 0.16, 0.46),
    47: struck(146.83, 1, 0, 0.2, 0.82, 1.25),
    49: struck(3520, 2.41, 3.4, 0.6, 0.44),
    50: struck(220, 1, 0, 0.18, 0.8, 1.25),
    51: struck(2637, 1.41, 1.6, 0.34, 0.42),
    54: struck(4186, 2.76, 2.4, 0.06, 0.46),
    56: struck(880, 1.5, 1.1, 0.14, 0.5),
    70: burst(8800, 1.4, 0.018, 0.5),
    75: struck(2349, 1, 0.5, 0.03, 0.56),
  },
};
