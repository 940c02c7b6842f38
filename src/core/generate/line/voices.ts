import { clamp, nth, lastOf } from "../../base";
import { scaleSemitones } from "../../pitch";
import type { Note } from "../../score";
import type { LineOptions } from "./options";
import type { NoteSlot } from "../rhythm/places";
import { classesAt } from "../common/tones";

/** Least distance between two voices, in semitones. */
const APART = 3;

/**
 * Puts further voices under a line, with its rhythm: each on the next tone of the chord that lies a
 * third or more below the voice above and inside the register. Bars that are kept get none.
 */
export function addVoices(
  line: readonly Note[],
  places: readonly NoteSlot[],
  options: LineOptions,
): Note[] {
  const inScale =
    options.pool === "chords" && options.chords.length > 0 ? null : scaleClasses(options);
  return line.flatMap((note, i) => {
    if (nth(places, i).fixed) return [note];
    const tones = classesAt(options, note.start);
    const voices = [note];
    for (let v = 1; v < options.voices; v++) {
      let pitch = lastOf(voices).pitch - APART;
      const fits = (pitch: number) =>
        tones.has(pitch % 12) && (!inScale || inScale.has(pitch % 12));
      while (pitch >= options.low && !fits(pitch)) pitch--;
      if (pitch < options.low) break;
      const velocity = Math.max(1, clamp(note.velocity - 8 * v, options.softest, options.loudest));
      voices.push({ ...note, id: `${note.id}v${v + 1}`, pitch, velocity });
    }
    return voices;
  });
}

function scaleClasses(options: LineOptions): Set<number> {
  return new Set(scaleSemitones(options.key.scale).map((s) => (s + options.key.root) % 12));
}
