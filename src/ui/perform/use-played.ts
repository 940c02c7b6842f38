import { useEffect, useState, useSyncExternalStore } from "react";
import { chordClasses, parseChord } from "@/core/pitch";
import { type ChordMark, type Project, tickInPattern, chordSpans } from "@/core/score";
import { useDesk, useSession } from "../session/context";
import { chordedSection } from "../state/current";

/** Pitches that are down on the current track, from wherever they are played. */
export function useDown(): ReadonlySet<number> {
  const { player } = useDesk();
  const track = useSession((state) => state.track);
  const key = useSyncExternalStore(
    player.watch,
    () => [...player.pitches(track)].join(" "),
    () => "",
  );
  return new Set(key === "" ? [] : key.split(" ").map(Number));
}

/** How often it is looked whether another chord holds, in ms. */
const LOOK_MS = 60;

/** Name of the chord that holds at a tick of a pattern; nothing where none does. */
function chordAt(
  project: Project,
  patternId: string,
  tick: number,
  over?: readonly ChordMark[],
): string {
  const own = project.patterns.find((pattern) => pattern.id === patternId);
  const pattern = own && over ? { ...own, chords: over } : own;
  if (!pattern?.chords) return "";
  const at = tickInPattern(project, pattern, Math.floor(tick));
  return (
    chordSpans(project, pattern).find(({ from, to }) => at >= from && at < to)?.mark.name ?? ""
  );
}

/** The chord of the chord line that holds now: where the loop is, or at the caret when stopped. */
export function useChordNow(): { name: string; classes: ReadonlySet<number> } {
  const { store, engine } = useDesk();
  const playing = useSession((state) => state.playing);
  const atCaret = useSession((state) =>
    chordAt(
      state.project,
      state.pattern,
      Math.max(0, state.caret.tick),
      chordedSection(state)?.chords,
    ),
  );
  const [nameAtEar, setNameAtEar] = useState("");
  useEffect(() => {
    if (!playing) return;
    const look = () => {
      const at = engine.position();
      const { project } = store.getState();
      const over = at && at.section !== null ? project.song[at.section]?.chords : undefined;
      if (at) setNameAtEar(chordAt(project, at.pattern, at.tick, over));
    };
    look();
    const timer = setInterval(look, LOOK_MS);
    return () => clearInterval(timer);
  }, [playing, engine, store]);
  const name = playing ? nameAtEar : atCaret;
  const chord = name ? parseChord(name) : null;
  return { name, classes: chord ? chordClasses(chord) : new Set() };
}
