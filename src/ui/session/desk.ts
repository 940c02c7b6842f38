import type { SessionStore } from "./store";
import type { Engine } from "@/audio/engine";
export interface Desk {
  store: SessionStore;
  engine: Engine;
}
