import type { Engine } from "@/audio/engine";
import type { Player } from "./player";
import type { SessionStore } from "../state/store";

/** An open project that can be heard. */
export interface SoundDesk {
  store: SessionStore;
  engine: Engine;
}

/** An open project: its state, its sound and what is played on it by hand. */
export interface Desk extends SoundDesk {
  player: Player;
}
