import { boathouse } from "./boathouse";
import { foghorn } from "./foghorn";
import { harbour } from "./harbour";
import type { Kit } from "./kit";
import { lantern } from "./lantern";
import { pebble } from "./pebble";
import { regatta } from "./regatta";
import { ropewalk } from "./ropewalk";
import { signal } from "./signal";
import { tinRoof } from "./tin-roof";
import { nth } from "@/core/base";

/** All kits, in the order a key steps through them. One line adds one. */
export const KITS: readonly Kit[] = [
  harbour,
  boathouse,
  foghorn,
  tinRoof,
  signal,
  regatta,
  lantern,
  pebble,
  ropewalk,
];

/** A kit by its id; an unknown one plays as the first. */
export function kitOf(id: string): Kit {
  return KITS.find((kit) => kit.id === id) ?? nth(KITS, 0);
}
