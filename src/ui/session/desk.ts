import type { SessionStore } from "./store";
import type { Engine } from "@/audio/engine";
/** An open project: its state and its sound. Commands that need sound are given both. */
export interface Desk {
  store: SessionStore;
  engine: Engine;
}
