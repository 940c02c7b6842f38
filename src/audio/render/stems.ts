import { type MidiPitch, nth } from "@/core/base";
import { PLAIN_MIX } from "@/core/sound";
import { type Project, type Track, padShapeOf, trackOf } from "@/core/score";
import type { Routes } from "../mixer";

/** What each file holds: everything, a track, a lane of a kit, or the drums and the melodies. */
export type StemKind = "mix" | "tracks" | "lanes" | "buses";

/** How what a track sends to the room goes along: in a file of its own, with each track, or not at all. */
export type StemSends = "apart" | "with" | "without";

export interface StemOptions {
  kind: StemKind;
  sends: StemSends;
  /** Whether each goes through the limiter of the whole; without it they sum up to the mix before that. */
  limited: boolean;
}

/** Several outputs rendered at once. */
export interface Stems {
  names: readonly string[];
  /** The project as the mixer is given it: a kit may be divided into its lanes. */
  project: Project;
  /** Whose a hit is, in that project. */
  owner(track: string, pitch: MidiPitch): string;
  routes: Routes;
  /** What does not sum up to the mix, in words. */
  apart: readonly string[];
}

/** A context has so many channels: two for each output. */
export const MAX_STEMS = 16;

/** A part of what sounds that gets a file of its own. */
interface Group {
  name: string;
  tracks: readonly string[];
}

/**
 * The outputs of a project. Throws a RangeError where there are more than are rendered at once, or none.
 * Lanes that choke each other stay together: one ends the other's sound.
 */
export function stemsOf(
  project: Project,
  options: StemOptions,
  sounding: readonly string[],
): Stems {
  const { sends, limited } = options;
  const divided = options.kind === "lanes" ? inLanes(project, sounding) : whole(project);
  const groups =
    options.kind === "mix"
      ? [{ name: "Mix", tracks: sounding }]
      : options.kind === "buses"
        ? buses(project, sounding)
        : divided.groups(sounding);
  const apart = sends === "apart" ? ["Reverb", "Echo"] : [];
  const names = [...groups.map(({ name }) => name), ...apart];
  if (groups.length === 0) throw new RangeError("Nothing sounds: every track is muted or empty");
  if (names.length > MAX_STEMS) {
    throw new RangeError(`${names.length} stems; at most ${MAX_STEMS} are rendered at once`);
  }
  return {
    names,
    apart: options.kind === "lanes" ? pressed(project, sounding) : [],
    project: divided.project,
    owner: divided.owner,
    routes: routesOf(groups, names.length, sends, limited),
  };
}

/** Where the tracks of each group lead, and the rooms they send to. */
function routesOf(
  groups: readonly Group[],
  count: number,
  sends: StemSends,
  limited: boolean,
): Routes {
  const outputs = Array.from({ length: count }, () => ({ limited }));
  const unheard = { reverb: null, echo: null };
  const at = (track: string) => groups.findIndex((group) => group.tracks.includes(track));
  const output = (track: string) => (at(track) < 0 ? null : at(track));
  if (sends !== "with") {
    const shared = sends === "apart" ? { reverb: count - 2, echo: count - 1 } : unheard;
    return { outputs, rooms: [shared], output, room: () => 0 };
  }
  const rooms = [...groups.map((_, i) => ({ reverb: i, echo: i })), unheard];
  return { outputs, rooms, output, room: (track) => output(track) ?? groups.length };
}

/** Kits whose sound is shaped by how loud it is: that works on each lane by itself, once they are divided. */
const pressed = (project: Project, sounding: readonly string[]): string[] =>
  project.tracks
    .filter(({ id, kind, mix }) => {
      const { compress, drive } = { ...PLAIN_MIX, ...mix };
      return kind === "drums" && sounding.includes(id) && (compress > 0 || drive > 0);
    })
    .map(({ name }) => `what shapes ${name} works on each lane by itself`);

const unique = (names: readonly string[]) =>
  names.map((name, i) => {
    const before = names.slice(0, i).filter((other) => other === name).length;
    return before > 0 ? `${name} ${before + 1}` : name;
  });

function whole(project: Project) {
  const names = unique(project.tracks.map((track) => track.name));
  return {
    project,
    owner: (track: string) => track,
    groups: (sounding: readonly string[]): Group[] =>
      project.tracks.flatMap(({ id }, i) =>
        sounding.includes(id) ? [{ name: nth(names, i), tracks: [id] }] : [],
      ),
  };
}

function buses(project: Project, sounding: readonly string[]): Group[] {
  const of = (kind: Track["kind"]) =>
    project.tracks
      .filter((track) => track.kind === kind && sounding.includes(track.id))
      .map((track) => track.id);
  return [
    { name: "Drums", tracks: of("drums") },
    { name: "Melodies", tracks: of("melody") },
  ].filter(({ tracks }) => tracks.length > 0);
}

/** A project of which each kit is divided: a track for each lane that is used, or for those that choke each other. */
function inLanes(project: Project, sounding: readonly string[]) {
  /** Whose a hit of a track on a pad is, and of which track it was divided from. */
  const owners = new Map<string, string>();
  const parents = new Map<string, string>();
  const keyOf = (track: string, pitch: MidiPitch) => `${pitch} ${track}`;
  const tracks: Track[] = [];
  const named: Group[] = [];
  for (const track of project.tracks) {
    const used = new Set(
      project.patterns.flatMap((pattern) =>
        pattern.parts
          .filter((part) => part.track === track.id)
          .flatMap((part) => part.notes.map((note) => note.pitch)),
      ),
    );
    if (track.kind === "melody") {
      tracks.push(track);
      named.push({ name: track.name, tracks: [track.id] });
      continue;
    }
    const lanes = track.lanes.filter(({ pitch }) => used.has(pitch));
    const together = new Map<string, typeof lanes>();
    for (const lane of lanes) {
      const choke = padShapeOf(track.kit, lane.pitch).choke;
      const key = choke > 0 ? `choke ${choke}` : `lane ${lane.pitch}`;
      together.set(key, [...(together.get(key) ?? []), lane]);
    }
    // What has no lane of its own, such as a hit that a card made, stays with the track.
    tracks.push(track);
    const rest: Group = { name: `${track.name} others`, tracks: [track.id] };
    [...together.values()].forEach((own, i) => {
      const id = `${i} of ${track.id}`;
      parents.set(id, track.id);
      for (const { pitch } of own) owners.set(keyOf(track.id, pitch), id);
      tracks.push({ ...track, id });
      named.push({ name: own.map((lane) => lane.name).join(" and "), tracks: [id] });
    });
    const made = project.patterns.some((pattern) =>
      pattern.parts.some((part) => part.track === track.id && part.chain.length > 0),
    );
    if (made || together.size === 0) named.push(rest);
  }
  const owner = (track: string, pitch: MidiPitch) => owners.get(keyOf(track, pitch)) ?? track;
  const parent = (id: string) => parents.get(id) ?? id;
  return {
    owner,
    project: {
      ...project,
      tracks: tracks.map((track) => {
        const by = track.mix?.duckBy;
        if (!track.mix || !by || trackOf(project, by).kind !== "drums") return track;
        const { duckPad = PLAIN_MIX.duckPad } = track.mix;
        return { ...track, mix: { ...track.mix, duckBy: owner(by, duckPad) } };
      }),
    },
    groups: (): Group[] => {
      const own = named.filter(({ tracks: ids }) => sounding.includes(parent(nth(ids, 0))));
      const names = unique(own.map(({ name }) => name));
      return own.map((group, i) => ({ ...group, name: nth(names, i) }));
    },
  };
}
