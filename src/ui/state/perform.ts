import {
  PLAY_DEFAULTS,
  keepPlaySettings,
  type PlaySettings,
  type RecordMode,
} from "../saving/play-settings";

interface Play {
  settings: PlaySettings;
  /** How what is played is recorded just now; null while it is not. */
  recording: RecordMode | null;
  /** Whether the simulated controller is shown. */
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
