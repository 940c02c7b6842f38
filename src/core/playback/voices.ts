import type { MidiPitch, Ticks } from "../base";
import { stepTicks } from "../time";
import type { Note, Part, Pattern, Project, Track } from "../score";
import { effectivePart } from "../transforms";

/** Notes that loop together: a whole melodic part, or one pad of a kit with its own loop length. */
export interface LoopGroup {
  notes: readonly Note[];
  starts: readonly number[];
  /** Loop length in ticks. */
  period: Ticks;
  pitch: MidiPitch | null;
}

const groupsOfNotes = new WeakMap<readonly Note[], Map<number, LoopGroup>>();

function byPitch(notes: readonly Note[]): Map<number, LoopGroup> {
  let groups = groupsOfNotes.get(notes);
  if (!groups) {
    const lists = new Map<number, Note[]>();
    for (const note of notes) {
      const list = lists.get(note.pitch);
      if (list) list.push(note);
      else lists.set(note.pitch, [note]);
    }
    groups = new Map();
    for (const [pitch, list] of lists) {
      groups.set(pitch, { notes: list, starts: list.map((note) => note.start), period: 0, pitch });
    }
    groupsOfNotes.set(notes, groups);
  }
  return groups;
}

const wholes = new WeakMap<readonly Note[], LoopGroup>();

function whole(notes: readonly Note[]): LoopGroup {
  let group = wholes.get(notes);
  if (!group) {
    group = { notes, starts: notes.map((note) => note.start), period: 0, pitch: null };
    wholes.set(notes, group);
  }
  return group;
}

/** Loop length of a pad in ticks: its lane's own steps, else the part's loop. */
export function lanePeriod(track: Track, pitch: MidiPitch, partLength: Ticks): number {
  const lane = track.lanes.find((lane) => lane.pitch === pitch);
  return lane?.steps ? lane.steps * stepTicks(lane.grid) : partLength;
}

/**
 * What of a part sounds, as groups that each loop on their own. Muted lanes are left out; where a
 * lane of the kit is on solo, the others are. With `all`, mute and solo are ignored.
 */
export function loopGroups(
  project: Project,
  { pattern, track, part }: { pattern: Pattern; track: Track; part: Part },
  { all = false }: { all?: boolean } = {},
): LoopGroup[] {
  const effective = effectivePart(project, track, part, pattern);
  if (track.kind === "melody") return [{ ...whole(effective.notes), period: effective.length }];
  const solo = !all && track.lanes.some((lane) => lane.solo);
  const groups: LoopGroup[] = [];
  for (const [pitch, group] of byPitch(effective.notes)) {
    const lane = track.lanes.find((lane) => lane.pitch === pitch);
    if (!all && (lane?.mute || (solo && !lane?.solo))) continue;
    groups.push({ ...group, period: lanePeriod(track, pitch, effective.length) });
  }
  return groups;
}

/** Tracks that sound: not muted, and on solo where any is. */
export function soundingTracks(project: Project): readonly Track[] {
  const solo = project.tracks.some((track) => track.solo);
  return project.tracks.filter((track) => !track.mute && (!solo || track.solo));
}
