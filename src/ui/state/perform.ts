import type { RecordMode } from "../person/settings";

interface Perform {
  /** How what is played is recorded just now; null while it is not. */
  recording: RecordMode | null;
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
  perform: { recording: null, controllerOpen: false },
  setPerform: (change) => set({ perform: { ...get().perform, ...change } }),
});
