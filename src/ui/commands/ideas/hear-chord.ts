import { chordPitches, parseChord } from "@/core/pitch";
import type { ChordMark, Track } from "@/core/score";
import { isBass } from "@/core/formats";
import type { Engine } from "@/audio/engine";
import type { SessionStore } from "../../state/store";

/** Where the roots of held chords lie on a track. */
export const lowOf = (track: Track): number => (isBass(track) ? 36 : 55);

/** Sounds a chord on the current melodic track, else on the first there is. */
export function hearChord(
  { store, engine }: { store: SessionStore; engine: Engine },
  mark: Pick<ChordMark, "name" | "inversion" | "spread">,
): void {
  const { project, track } = store.getState();
  const melodic = project.tracks.filter((track) => track.kind === "melody");
  const on = melodic.find((t) => t.id === track) ?? melodic[0];
  const chord = parseChord(mark.name);
  if (!on || !chord) return;
  for (const pitch of chordPitches(chord, { ...mark, low: lowOf(on) })) {
    void engine.audition(on.id, pitch, 84, 0.9);
  }
}
