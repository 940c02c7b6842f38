import type { RecordMode } from "../person/settings";

/** A recording that goes on. */
interface Recording {
  mode: RecordMode;
  /** Ends it: what is held ends here, what is unwritten is written. */
  finish(): void;
}

interface Perform {
  recording: Recording | null;
  /** Whether a recording was asked for whose sound is on its way: asked for again meanwhile, it begins once. */
  starting: boolean;
  /** Whether the simulated controller is shown. */
  controllerOpen: boolean;
}

/** Playing in, with its setter. */
export interface PerformSlice {
  perform: Perform;
  setPerform(change: Partial<Perform>): void;
}

export const performSlice = (
  set: (change: Pick<PerformSlice, "perform">) => void,
  get: () => Pick<PerformSlice, "perform">,
): PerformSlice => ({
  perform: { recording: null, starting: false, controllerOpen: false },
  setPerform: (change) => set({ perform: { ...get().perform, ...change } }),
});
