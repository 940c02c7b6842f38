import { PLAY_DEFAULTS, keepPlaySettings, type PlaySettings } from "../saving/play-settings";

/** A recording that goes on. */
export interface Recording {
  mode: PlaySettings["record"];
  /** The run of playback it belongs to, and the tick since the pattern's turn began from which it counts. */
  run: number;
  pattern: string;
  from: number;
  /** Notes recorded so far. */
  notes: number;
}

interface Play {
  settings: PlaySettings;
  recording: Recording | null;
  /** Beat that is counted in just now, from 1; null when none is. */
  counting: number | null;
  /** Whether the strip of what was played, and the simulated controller are shown. */
  stripOpen: boolean;
  controllerOpen: boolean;
}

/** Playing in, with its setters. */
export interface PlaySlice {
  play: Play;
  /** Changes how this person plays in; kept in the browser. */
  setPlaySettings(change: Partial<PlaySettings>): void;
  setPlay(change: Partial<Play>): void;
}

/** Settings as they are at first, until those of the browser are known. */
export const playSlice = (
  set: (change: Pick<PlaySlice, "play">) => void,
  get: () => Pick<PlaySlice, "play">,
): PlaySlice => ({
  play: {
    settings: PLAY_DEFAULTS,
    recording: null,
    counting: null,
    stripOpen: true,
    controllerOpen: false,
  },
  setPlaySettings(change) {
    const { play } = get();
    const settings = { ...play.settings, ...change };
    set({ play: { ...play, settings } });
    keepPlaySettings(settings);
  },
  setPlay: (change) => set({ play: { ...get().play, ...change } }),
});
