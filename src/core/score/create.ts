import type { Bpm, MidiPitch, Ticks } from "../base";
import {
  DEFAULT_GRID,
  type Grid,
  type GridKind,
  type Metre,
  PPQ,
  barTicks,
  beatTicks,
  grid,
} from "../time";
import { type Key, padName } from "../pitch";
import type { Lane, Note, Part, Pattern, Project, Track } from "./model";

/** Pads a new kit track has lanes for, General MIDI percussion keys, with the grid each starts on. */
const NEW_LANES: readonly [pitch: MidiPitch, grid: Grid][] = [
  [36, grid(8)],
  [38, grid(4)],
  [37, grid(16)],
  [39, grid(4)],
  [42, grid(16)],
  [46, grid(8)],
  [45, grid(16)],
  [50, grid(16)],
  [70, grid(16)],
  [49, grid(4)],
];

/** A note with everything it may leave out. */
export function makeNote(note: Partial<Note> & { id: string; start: Ticks }): Note {
  return { length: 240, pitch: 60, velocity: 96, pan: 0, tune: 0, slide: false, ...note };
}

/** A lane for a pad; id and name follow from the pitch. */
export function makeLane(pitch: MidiPitch, laneGrid: Grid = DEFAULT_GRID): Lane {
  return {
    id: `lane-${pitch}`,
    name: padName(pitch),
    pitch,
    grid: laneGrid,
    steps: null,
    mute: false,
    solo: false,
  };
}

/** The kind of a grid in quarters that steps in felt beats: dotted where these are. */
const quarterKind = (metre: Metre): GridKind =>
  beatTicks(metre) === 1.5 * PPQ ? "dotted" : "straight";

/**
 * Lanes as they suit a metre: those that stepped in the quarters of the metre before step in its felt beats, but for
 * those that hits are drawn on. The very same list where none differs.
 */
export function lanesInMetre(
  lanes: readonly Lane[],
  metre: Metre,
  before: Metre = { beats: 4, unit: 4 },
  isDrawn: (pitch: MidiPitch) => boolean = () => false,
): readonly Lane[] {
  const [was, kind] = [quarterKind(before), quarterKind(metre)];
  if (was === kind) return lanes;
  return lanes.map((lane) => {
    const { grid, pitch } = lane;
    const goes = grid.value === 4 && grid.kind === was && !isDrawn(pitch);
    return goes ? { ...lane, grid: { ...grid, kind } } : lane;
  });
}

/** A track with default level, pan and, for drums, the ten usual lanes. */
export function makeTrack(
  track: Partial<Track> & { id: string; kind: Track["kind"]; name: string; sound: string },
): Track {
  return {
    level: 0,
    pan: 0,
    mute: false,
    solo: false,
    lanes: track.kind === "drums" ? NEW_LANES.map(([pitch, g]) => makeLane(pitch, g)) : [],
    ...track,
  };
}

/** An empty part of a track. */
export function makePart(track: string, length: Ticks, partGrid: Grid = DEFAULT_GRID): Part {
  return { track, length, grid: partGrid, notes: [], chain: [] };
}

/** A pattern with one empty part per track, as long as the pattern. */
export function makePattern({
  id,
  name,
  bars,
  tracks,
  metre,
}: {
  id: string;
  name: string;
  bars: number;
  tracks: readonly Track[];
  metre: Metre;
}): Pattern {
  const length = bars * barTicks(metre);
  return { id, name, bars, parts: tracks.map((track) => makePart(track.id, length)) };
}

/** What a new project may begin with; what is left out takes its usual value. */
export interface NewProject {
  name?: string;
  tempo?: Bpm;
  metre?: Metre;
  key?: Key;
  bars?: number;
  tracks?: readonly Track[];
}

/**
 * A project to start from: a kit, a bass, one empty pattern. Pure: the same options give the
 * same project. `bars` is the length of its first pattern.
 */
export function createProject(options: NewProject = {}): Project {
  const metre = options.metre ?? { beats: 4, unit: 4 };
  const kit = makeTrack({ id: "drums", kind: "drums", name: "Harbour kit", sound: "harbour" });
  const tracks = options.tracks ?? [
    { ...kit, lanes: lanesInMetre(kit.lanes, metre) },
    makeTrack({ id: "bass", kind: "melody", name: "Reed bass", sound: "reed-bass" }),
  ];
  return {
    name: options.name ?? "Untitled",
    tempo: options.tempo ?? 120,
    metre,
    key: options.key ?? { root: 0, scale: "minor" },
    tracks,
    patterns: [makePattern({ id: "a", name: "Main", bars: options.bars ?? 2, tracks, metre })],
    song: [],
  };
}
