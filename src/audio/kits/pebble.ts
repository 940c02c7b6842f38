import type { Kit } from "./kit";
import { both, burst, crushed, kick, knock, struck } from "./voices";

/** Everything tiny: pebbles, glass and clicks, with a short round low end. */
export const pebble: Kit = {
  id: "pebble",
  label: "Pebble kit",
  about: "Clicks, drops and splinters of glass over a short round thump: tiny and precise",
  pads: {
    35: kick(150, 60, 0.012, 0.07, 0.82),
    36: kick(120, 55, 0.02, 0.085, 0.86),
    37: knock(3900, 1.21, 0.005, 0.6),
    38: both(burst(5200, 1.6, 0.022, 0.9, 0.05), struck(420, 2.4, 1.2, 0.03, 0.9), 0.45, 0.8),
    39: both(burst(2600, 2.5, 0.012, 0.9, 0.04), burst(6400, 2, 0.03, 0.9), 0.5, 0.74),
    40: crushed(burst(3100, 1.2, 0.03, 0.9, 0.06), 5, 9, 0.64),
    42: burst(9800, 2.4, 0.008, 0.5),
    44: burst(8200, 2.4, 0.006, 0.42),
    45: struck(150, 1, 0, 0.06, 0.8, 2.6),
    46: both(burst(9200, 1.4, 0.07, 0.8), struck(5100, 1.41, 2, 0.06, 0.8), 0.35, 0.48),
    47: struck(214, 1, 0, 0.055, 0.78, 2.6),
    49: both(struck(2300, 1.73, 5, 0.4, 0.8), burst(7800, 0.9, 0.3, 0.8), 0.4, 0.48),
    50: struck(300, 1, 0, 0.05, 0.76, 2.6),
    51: struck(3300, 1.61, 3, 0.16, 0.42),
    54: crushed(burst(7400, 1.8, 0.04, 0.9), 4, 6, 0.5),
    56: struck(1240, 3.51, 1.4, 0.09, 0.48),
    70: burst(6100, 3, 0.012, 0.48),
    75: struck(2050, 1.5, 0.4, 0.012, 0.56),
  },
};
