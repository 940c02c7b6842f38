/** What the keys do: play, enter notes, tap a rhythm, or give pitches to what was tapped. */
export type EntryMode = "play" | "notes" | "tap" | "pitches";

/** The playing surface while it is open. */
export interface Entry {
  mode: EntryMode;
  /** Note value of the next step. */
  value: number;
  kind: "straight" | "triplet" | "dotted";
  velocity: number;
  /** MIDI pitch of the lowest key, a C. */
  low: number;
  /** Whether what follows moves on instead of being written over. */
  insert: boolean;
  /** Whether clicks on keys stay on one step until it is left: a chord is built. */
  gather: boolean;
  /** Whether taps go to the grid. */
  snapTaps: boolean;
  /** The step that keys are held on: what is pressed now joins it. */
  open: { tick: number; ids: string[] } | null;
  /** Steps entered so far, the last one last. */
  steps: { tick: number; ticks: number; ids: string[] }[];
}

/** What step entry begins with the next time: as it was left. */
export type EntryMemory = Pick<Entry, "value" | "kind" | "velocity" | "insert" | "snapTaps">;

/** Step entry. */
export interface EntrySlice {
  /** Null while step entry is off. */
  entry: Entry | null;
  entryMemory: EntryMemory;

  beginEntry(entry: Entry): void;
  /** Changes step entry while it is on; does nothing else. */
  setEntry(change: Partial<Entry>): void;
  endEntry(): void;
}

/** Step entry, off at first. */
export const entrySlice = (
  set: (change: Partial<Pick<EntrySlice, "entry" | "entryMemory">>) => void,
  get: () => Pick<EntrySlice, "entry">,
): EntrySlice => ({
  entry: null,
  entryMemory: { value: 8, kind: "straight", velocity: 80, insert: false, snapTaps: true },

  beginEntry: (entry) => set({ entry }),
  setEntry(change) {
    const { entry } = get();
    if (entry) set({ entry: { ...entry, ...change } });
  },
  endEntry() {
    const { entry } = get();
    if (!entry) return;
    const { value, kind, velocity, insert, snapTaps } = entry;
    set({ entry: null, entryMemory: { value, kind, velocity, insert, snapTaps } });
  },
});
