import { bounce, bounceHeld } from "@/audio/bounce";
import { SOUNDS } from "@/audio/sounds";
import type { SentNote } from "@/audio/record";
import type { Note, Project } from "@/core/score";
import { playbackEvents } from "@/core/playback";
import { loudness } from "@/core/analysis";
import type { PlayedNote } from "@/core/perform";
import type { SimulatedController } from "@/input/simulated";
import type { PitchWindow } from "../geometry/pitch-window";
import { timeInView } from "../state/time";
import type { LiveNote } from "@/audio/live-notes";
import type { Desk } from "./desk";

/** What can be read from outside: what the sound engine sent, and the state of the open project. */
export interface Probe {
  sent(): SentNote[];
  counts(): { sent: number; late: number };
  clear(): void;
  project(): Project;
  /** Notes that are previewed, or null. */
  preview(): readonly Note[] | null;
  /** What of time is seen: pixels a tick, and the first tick. */
  view(): { zoom: number; scroll: number };
  /** Which rows of melodic tracks are seen. */
  windows(): Readonly<Record<string, PitchWindow>>;
  /** Beats clicked so far. */
  clicks(): number;
  /** The last clicks, those of the count-in marked, and when they were due by the audio clock. */
  lastClicks(): readonly { due: number; tick: number; countIn: boolean }[];
  /** Notes begun by hand, and counts of those begun and ended. */
  live(): { notes: readonly LiveNote[]; started: number; ended: number };
  /** What was played and is remembered. */
  played(): readonly PlayedNote[];
  /** Where the loop was for the player at a time of the page's clock. */
  playedAt(time: number): { pattern: string; tick: number } | null;
  position(): { pattern: string; tick: number } | null;
  /** The simulated controller, once it is plugged in. */
  controller?: SimulatedController;
  bounce: typeof bounce;
  bounceHeld: typeof bounceHeld;
  playbackEvents: typeof playbackEvents;
  loudness: typeof loudness;
  /** Ids of the melodic sounds. */
  sounds(): string[];
  /** Seconds of the audio clock; 0 before there is any. */
  audioClock(): number;
  /** How often a recording behind a pattern was begun or jumped. */
  referenceBegun(): number;
}

declare global {
  interface Window {
    hailstep?: Probe;
  }
}

/** Puts the probe on the window, read-only, for tests, benchmarks and the curious. */
export function exposeProbe({ store, engine, player }: Desk): void {
  window.hailstep = {
    sent: () => engine.sent.list(),
    counts: () => ({ sent: engine.sent.sent, late: engine.sent.late }),
    clear: () => engine.sent.clear(),
    project: () => store.getState().project,
    preview: () => store.getState().preview?.notes ?? null,
    view: () => {
      const { zoom, scroll } = timeInView(store.getState());
      return { zoom, scroll };
    },
    windows: () => store.getState().windows,
    clicks: () => engine.clicked,
    lastClicks: () => engine.clicks,
    live: () => ({
      notes: engine.live.list(),
      started: engine.live.started,
      ended: engine.live.ended,
    }),
    played: () => player.log.notes,
    playedAt: (time) => engine.playedAt(time),
    position: () => engine.position(),
    bounce,
    bounceHeld,
    playbackEvents,
    loudness,
    sounds: () => SOUNDS.filter(({ kind }) => kind === "melody").map(({ id }) => id),
    audioClock: () => engine.audioClock,
    referenceBegun: () => engine.referenceBegun,
  };
}
