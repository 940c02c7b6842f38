import {
  LIMITS,
  type Pattern,
  type Project,
  type SongEntry,
  type Track,
  makePart,
  metreOf,
  patternTicks,
} from "../../score";
import { nextPatternName, wholeSong } from "../../edits";
import type { Losses } from "../import/losses";
import { mustGet, must, nth } from "../../base";

/**
 * Pieces one after another as one project: their patterns in order, and a song of them. Tracks of one name and
 * sound are one. The first gives name, tempo, metre and key; the others keep their tempo and metre as sections and
 * patterns of their own. What does not fit is counted as lost.
 */
export function inSequence(pieces: readonly Project[], lost: Losses): Project {
  const first = nth(pieces, 0);
  const tracks = new Map<string, Track>();
  const keyOf = ({ kind, sound, name }: Track) => `${kind} ${sound} ${name}`;
  const kept: Project[] = [];
  for (const piece of pieces) {
    const fresh = piece.tracks.filter((track) => !tracks.has(keyOf(track))).length;
    const patterns = kept.reduce((sum, one) => sum + one.patterns.length, piece.patterns.length);
    const sections = kept.reduce(
      (sum, one) => sum + wholeSong(one).length,
      wholeSong(piece).length,
    );
    if (
      tracks.size + fresh > LIMITS.tracks ||
      patterns > LIMITS.patterns ||
      sections > LIMITS.song
    ) {
      lost.add("further sequence", "beyond what fits");
      continue;
    }
    kept.push(piece);
    for (const track of piece.tracks) {
      const known = tracks.get(keyOf(track));
      if (!known) tracks.set(keyOf(track), { ...track, id: `t${tracks.size + 1}` });
      else tracks.set(keyOf(track), { ...known, lanes: together(known, track) });
    }
  }
  const all = [...tracks.values()];
  let made: Project = { ...first, tracks: all, patterns: [], song: [] };
  for (const piece of kept) {
    const ids = new Map<string, string>();
    for (const pattern of piece.patterns) {
      const id = `p${made.patterns.length + 1}`;
      ids.set(pattern.id, id);
      made = { ...made, patterns: [...made.patterns, patternIn(made, piece, pattern, id, tracks)] };
    }
    const song = wholeSong(piece).map(
      ({ tempo = piece.tempo, mutes: _, ...entry }, i): SongEntry => ({
        ...entry,
        id: `s${made.song.length + i + 1}`,
        pattern: mustGet(ids, entry.pattern),
        ...(tempo !== first.tempo && { tempo }),
      }),
    );
    made = { ...made, song: [...made.song, ...song] };
  }
  return made;

  function patternIn(
    now: Project,
    piece: Project,
    { metre: _, ...pattern }: Pattern,
    id: string,
    owners: ReadonlyMap<string, Track>,
  ): Pattern {
    const own = must(piece.patterns.find((one) => one.id === pattern.id));
    const metre = metreOf(piece, own);
    const same = metre.beats === first.metre.beats && metre.unit === first.metre.unit;
    const ticks = patternTicks(piece, own);
    const parts = new Map(
      pattern.parts.map((part) => {
        const track = must(piece.tracks.find((one) => one.id === part.track));
        return [mustGet(owners, keyOf(track)).id, part] as const;
      }),
    );
    return {
      ...pattern,
      id,
      name: now.patterns.some(({ name }) => name === pattern.name)
        ? nextPatternName(now, pattern.name)
        : pattern.name,
      ...(!same && { metre }),
      parts: all.map((track) => {
        const part = parts.get(track.id);
        return part ? { ...part, track: track.id } : makePart(track.id, ticks);
      }),
    };
  }
}

/** The lanes of both. */
function together(a: Track, b: Track): Track["lanes"] {
  const have = new Set(a.lanes.map(({ pitch }) => pitch));
  return [...a.lanes, ...b.lanes.filter(({ pitch }) => !have.has(pitch))].slice(0, LIMITS.lanes);
}
