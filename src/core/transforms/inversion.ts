import { type MidiPitch, nth, plural } from "../base";
import type { Note } from "../score";
import { param, params } from "../params";
import { counted, defineTransform } from "./kit";
import { onsetIndices } from "./onsets";

/**
 * Turns chords over: with each step up the lowest tone goes up by octaves to the first that is free above, with each
 * step down the highest goes down. Tones that begin together are a chord; a single note stays, and so does a chord
 * that would leave 0–127. Common practice.
 */
export const inversion = defineTransform({
  label: "Chord inversion",
  family: "chords",
  example: { params: { steps: 1 } },
  about: "Turns chords over: the lowest tone goes to the top, or the highest to the bottom",
  schema: params({ steps: param.whole("Steps", -8, 8) }),
  picture: { pitches: [60, 64, 67], ticks: (bar) => bar },
  defaults: { steps: 1 },
  run(selected, { steps }, context) {
    const replaced: Note[] = [...selected];
    let [chords, held] = [0, 0];
    const groups = context.kind === "drums" ? [] : onsetIndices(selected);
    for (const group of groups) {
      if (group.length < 2) continue;
      chords++;
      const notes = group.map((k) => nth(selected, k));
      const pitches = inverted(
        notes.map(({ pitch }) => pitch),
        steps,
      );
      if (!pitches) held++;
      else group.forEach((k, i) => (replaced[k] = { ...nth(notes, i), pitch: nth(pitches, i) }));
    }
    return {
      replaced,
      sentence: (counts) => {
        if (context.kind === "drums") return "Drum hits make no chords, none turned over";
        if (chords === 0) return "No chord to turn over: nothing begins together";
        const kept = held ? `, ${held} held inside the range` : "";
        return `${counted(counts.moved, context)} of ${plural(chords, "chord")} moved${kept}`;
      },
    };
  },
});

/** Pitches of a chord after so many steps, in the order given; null where one would leave 0–127. */
function inverted(pitches: readonly MidiPitch[], steps: number): MidiPitch[] | null {
  const now = [...pitches];
  const up = steps > 0;
  for (let i = 0; i < Math.abs(steps); i++) {
    const end = up ? Math.min(...now) : Math.max(...now);
    let to = end;
    do to += up ? 12 : -12;
    while (now.includes(to));
    if (to < 0 || to > 127) return null;
    now[now.indexOf(end)] = to;
  }
  return now;
}
