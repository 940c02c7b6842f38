import { type Metre, beatTicks, beatsInBar, unitTicks } from "../time";
import {
  type ChainStep,
  type Note,
  type Part,
  type Project,
  type SongEntry,
  metreOf,
  rootId,
} from "../score";
import { withoutDeadSources } from "./sources";

/** A section of the song as projects had it before sections had ids. */
type OldEntry = Omit<SongEntry, "id"> & { id?: string };

/**
 * Brings a project that was made by an earlier version up to the model of this one; it plays as it
 * did. The same project when there is nothing to do. Deterministic: the same input gives the same ids.
 *
 * - Sections of the song get ids.
 * - Notes that a chain made and that were written with ids of the form `root~2` get ids of their own,
 *   since such an id stands for its root; steps that listed them, or their root, list the new ids.
 * - Steps that took their timing from a track that was deleted take it from none.
 * - Beats of a compound metre (6/8) that a step names were counted in eighths; they are dotted quarters.
 */
export function upgrade(kept: Project): Project {
  const project = withoutDeadSources(kept);
  const song = withIds(project.song);
  const patterns = project.patterns.map((pattern) => {
    const metre = metreOf(project, pattern);
    const parts = pattern.parts.map((part) => {
      const own = withOwnIds(part);
      // Patterns have had metres of their own for as long as beats are felt ones.
      return pattern.metre ? own : withFeltBeats(own, metre);
    });
    return parts.every((part, i) => part === pattern.parts[i]) ? pattern : { ...pattern, parts };
  });
  const same = patterns.every((pattern, i) => pattern === project.patterns[i]);
  if (song === project.song && same) return project;
  return { ...project, song, patterns: same ? project.patterns : patterns };
}

function withIds(song: readonly OldEntry[]): readonly SongEntry[] {
  if (song.every((entry) => entry.id !== undefined)) return song as readonly SongEntry[];
  const taken = new Set(song.map((entry) => entry.id));
  let next = 1;
  return song.map((entry) => {
    if (entry.id !== undefined) return entry as SongEntry;
    while (taken.has(`s${next}`)) next++;
    return { id: `s${next++}`, pattern: entry.pattern, times: entry.times };
  });
}

const isPiece = (note: Note) => note.id.includes("~");

function withOwnIds(part: Part): Part {
  if (!part.notes.some(isPiece)) return part;
  const taken = new Set(part.notes.map((note) => note.id));
  const renamed = new Map<string, string>();
  for (const { id } of part.notes.filter(isPiece)) {
    const own = freeId(id, taken);
    taken.add(own);
    renamed.set(id, own);
  }
  const notes = part.notes.map((note) => {
    const id = renamed.get(note.id);
    return id === undefined ? note : { ...note, id };
  });
  return { ...part, notes, chain: part.chain.map((step) => pointed(step, renamed)) };
}

/** A note's id is at most this long. */
const LONGEST = 64;

/** `n4~2` becomes `n4.2`, or another where that is taken or too long. */
function freeId(id: string, taken: ReadonlySet<string>): string {
  const plain = id.replaceAll("~", ".").slice(0, LONGEST);
  if (!taken.has(plain)) return plain;
  for (let k = 1; ; k++) {
    const end = `.${k}`;
    const other = plain.slice(0, LONGEST - end.length) + end;
    if (!taken.has(other)) return other;
  }
}

/** A step points at what it pointed at: listed pieces by their new ids, and all pieces of a listed root. */
function pointed(step: ChainStep, renamed: ReadonlyMap<string, string>): ChainStep {
  if (!step.scope) return step;
  const listed = new Set(step.scope);
  const pieces = [...renamed].filter(([old]) => listed.has(old) || listed.has(rootId(old)));
  if (pieces.length === 0) return step;
  const kept = step.scope.filter((id) => !renamed.has(id));
  return { ...step, scope: [...kept, ...pieces.map(([, own]) => own)] };
}

/** Numbers of eighths in place of felt beats can be told where there are not so many beats. */
function withFeltBeats(part: Part, metre: Metre): Part {
  const eighths = beatTicks(metre) / unitTicks(metre);
  if (eighths === 1) return part;
  const felt = (step: ChainStep): ChainStep => {
    const { beats } = step.params;
    if (typeof beats !== "string") return step;
    const numbers = beats.split(" ").map(Number);
    if (!numbers.some((beat) => beat > beatsInBar(metre))) return step;
    const on = numbers
      .filter((beat) => (beat - 1) % eighths === 0)
      .map((beat) => (beat - 1) / eighths + 1);
    return { ...step, params: { ...step.params, beats: on.join(" ") } };
  };
  const chain = part.chain.map(felt);
  return chain.every((step, i) => step === part.chain[i]) ? part : { ...part, chain };
}
