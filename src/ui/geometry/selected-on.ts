/** Ids of notes by track. */
export type ByTrack = ReadonlyMap<string, ReadonlySet<string>>;

/** What is selected on the current track, and beside it on others of the pattern. */
export interface SelectedNotes {
  track: string;
  selection: ReadonlySet<string>;
  beside: ByTrack;
}

export const NO_IDS: ReadonlySet<string> = new Set();

/** What is selected on a track of the pattern, the current one or another. */
export const selectedOn = (
  { track: current, selection, beside }: SelectedNotes,
  track: string,
): ReadonlySet<string> => (track === current ? selection : (beside.get(track) ?? NO_IDS));
