import type { Engine } from "@/audio/engine";
import { bounce } from "@/audio/bounce";
import type { SentNote } from "@/audio/record";
import { playbackEvents, type Note, type Project } from "@/core";
import type { PitchWindow } from "../geometry/pitch-window";
import type { SessionStore } from "./store";

/** What can be read from outside: what the sound engine sent, and the state of the open project. */
export interface Probe {
  sent(): SentNote[];
  counts(): { sent: number; late: number };
  clear(): void;
  project(): Project;
  /** Notes that are previewed, or null. */
  preview(): readonly Note[] | null;
  /** Which rows of melodic tracks are seen. */
  windows(): Readonly<Record<string, PitchWindow>>;
  /** Beats clicked so far. */
  clicks(): number;
  position(): { pattern: string; tick: number } | null;
  bounce: typeof bounce;
  playbackEvents: typeof playbackEvents;
}

declare global {
  interface Window {
    hailstep?: Probe;
  }
}

/** Puts the probe on the window, read-only, for tests, benchmarks and the curious. */
export function exposeProbe(store: SessionStore, engine: Engine): void {
  window.hailstep = {
    sent: () => engine.sent.list(),
    counts: () => ({ sent: engine.sent.sent, late: engine.sent.late }),
    clear: () => engine.sent.clear(),
    project: () => store.getState().project,
    preview: () => store.getState().preview?.notes ?? null,
    windows: () => store.getState().windows,
    clicks: () => engine.clicked,
    position: () => engine.position(),
    bounce,
    playbackEvents,
  };
}
