import * as fc from "fast-check";
import { GRID_KINDS, type Grid, barTicks } from "./time";
import {
  COLOURS,
  type ChainStep,
  type ChordMark,
  type Condition,
  type Lane,
  type Note,
  type Part,
  type Pattern,
  type Project,
  type SongEntry,
  type Starred,
  type Track,
  createProject,
  makeLane,
  makeNote,
  makeTrack,
  plainPad,
  sortNotes,
  sortChords,
} from "./score";
import { TRANSFORMS, trackParams } from "./transforms";
import { must, nth } from "./base";

/** A value, or nothing at all: what a model may leave out. */
const maybe = <T>(of: fc.Arbitrary<T>): fc.Arbitrary<T | undefined> =>
  fc.option(of, { nil: undefined, freq: 2 });

/** A record without the fields that are undefined. */
const lean = <T extends object>(of: T): T =>
  Object.fromEntries(Object.entries(of).filter(([, value]) => value !== undefined)) as T;

const METRES = [
  { beats: 4, unit: 4 },
  { beats: 3, unit: 4 },
  { beats: 6, unit: 8 },
  { beats: 7, unit: 8 },
  { beats: 12, unit: 8 },
] as const;
export const anyMetre = fc.constantFrom(...METRES);

const anyGrid: fc.Arbitrary<Grid> = fc.record({
  value: fc.constantFrom(4, 8, 16, 32),
  kind: fc.constantFrom(...GRID_KINDS),
  swing: fc.constantFrom(50, 50, 58, 66),
});

const PADS = [36, 38, 42, 46, 49, 45] as const;

/** Which features a project may have. What is left out may be there. */
export interface Features {
  /** Hits with a chance. */
  chance?: boolean;
  /** Notes that glide into the next. */
  slides?: boolean;
  chains?: boolean;
  /** Hits that begin before their loop. */
  early?: boolean;
  /** Lanes with loops of their own. */
  laneLoops?: boolean;
  /** Sections that begin or end inside their pattern. */
  pieces?: boolean;
  song?: boolean;
}

const anyCondition = fc.constantFrom<Condition>(
  ...(["not-first", "last", "not-last", "1/2", "2/2", "3/4", "not-2/3"] as const),
);

function anyHit(pitches: readonly number[], features: Features): fc.Arbitrary<Omit<Note, "id">> {
  return fc
    .record({
      start: fc.oneof(
        fc.integer({ min: 0, max: 47 }).map((step) => step * 240),
        fc.integer({ min: features.early === false ? 0 : -300, max: 16_000 }),
      ),
      length: fc.integer({ min: 1, max: 4000 }),
      pitch: fc.constantFrom(...pitches),
      velocity: fc.integer({ min: 1, max: 127 }),
      pan: fc.constantFrom(0, 0, -0.5, 1),
      tune: fc.constantFrom(0, 0, 7, -12),
      slide: fc.constantFrom(false, features.slides !== false),
      channel: maybe(fc.constantFrom(1, 9)),
      chance: features.chance === false ? fc.constant(undefined) : maybe(fc.constantFrom(25, 80)),
      when: maybe(anyCondition),
    })
    .map(lean);
}

/** Hits and notes of a part, one at most at each start of a pitch. */
const anyHits = (pitches: readonly number[], features: Features): fc.Arbitrary<readonly Note[]> =>
  fc
    .uniqueArray(anyHit(pitches, features), {
      maxLength: 10,
      selector: ({ start, pitch }) => `${start}:${pitch}`,
    })
    .map((hits) => sortNotes(hits.map((hit, i) => makeNote({ ...hit, id: `n${i}` }))));

const anyChords = fc
  .array(
    fc.record({
      start: fc.integer({ min: 0, max: 7 }).map((beat) => beat * 960),
      name: fc.constantFrom("Am", "F", "C/E", "G7", ""),
      inversion: fc.integer({ min: 0, max: 2 }),
      spread: fc.constantFrom("close" as const, "open" as const),
    }),
    { maxLength: 4 },
  )
  .map((marks) => sortChords(marks.map((mark, i): ChordMark => ({ ...mark, id: `c${i}` }))));

/** A card with its usual values, or those of another draw where it is of many. */
const anyStep = (tracks: readonly string[]): fc.Arbitrary<Omit<ChainStep, "id">> =>
  fc
    .record({
      transform: fc.constantFrom(...Object.keys(TRANSFORMS)),
      on: fc.constantFrom(true, true, false),
      seed: fc.integer({ min: 1, max: 99 }),
      source: fc.constantFrom(...tracks),
      scope: fc.constantFrom<string[] | null>(null, null, ["n0", "n1"]),
      lane: maybe(fc.constantFrom(36, 42)),
    })
    .map(({ transform, seed, source, ...step }) => {
      const { defaults, starts } = must(TRANSFORMS[transform]);
      const params = { ...defaults, ...starts };
      const named = Object.fromEntries(trackParams(transform).map((name) => [name, source]));
      return lean({
        ...step,
        transform,
        params: { ...params, ...("seed" in params && { seed }), ...named },
      });
    });

function anyPart(
  track: Track,
  total: number,
  bar: number,
  tracks: readonly string[],
  features: Features,
): fc.Arbitrary<Part> {
  const drums = track.kind === "drums";
  const pitches = drums ? PADS : [0, 45, 48, 52, 57, 127];
  return fc
    .record({
      grid: anyGrid,
      length: fc.constantFrom(total, total, bar, Math.min(total, 1440), Math.min(total, 1200)),
      notes: anyHits(pitches, features),
      steps:
        features.chains === false
          ? fc.constant<Omit<ChainStep, "id">[]>([])
          : fc.array(anyStep(tracks), { maxLength: 2 }),
      bend: drums
        ? fc.constant(undefined)
        : maybe(fc.uniqueArray(fc.integer({ min: 0, max: 3000 }), { minLength: 1, maxLength: 4 })),
      generated: maybe(fc.constant({ kind: "line" as const, seed: 5, settings: { density: 40 } })),
    })
    .map(({ steps, bend, ...part }) =>
      lean({
        ...part,
        track: track.id,
        chain: steps.map((step, i) => ({ ...step, id: `k${i}` })),
        bend: bend
          ?.sort((a, b) => a - b)
          .map((tick, i) => ({ tick, value: i % 2 === 0 ? 4096 : -900 })),
      }),
    );
}

const anyLanes = ({ laneLoops = true }: Features): fc.Arbitrary<readonly Lane[]> =>
  fc.tuple(
    ...PADS.map((pad) =>
      fc
        .record({
          grid: anyGrid,
          steps: laneLoops
            ? fc.constantFrom(null, null, null, 3, 4, 5, 7, 16, 40)
            : fc.constant(null),
          mute: fc.constantFrom(false, false, false, true),
        })
        .map((lane) => ({ ...makeLane(pad), ...lane })),
    ),
  );

function anyTracks(features: Features): fc.Arbitrary<readonly Track[]> {
  return fc
    .record({
      lanes: anyLanes(features),
      mute: fc.boolean(),
      level: fc.integer({ min: -60, max: 6 }),
    })
    .map(({ lanes, mute, level }) => [
      {
        ...makeTrack({ id: "drums", kind: "drums", name: "Kit", sound: "harbour" }),
        lanes,
        kit: { level: 1, pitch: 0, time: 1, pads: [{ ...plainPad(36), tune: 2 }] },
        mix: { low: 2, reverb: -12 },
      },
      {
        ...makeTrack({ id: "bass", kind: "melody", name: "Bass", sound: "reed-bass" }),
        level,
        shaping: { attack: 20 },
        mix: { duckBy: "drums", duckDepth: 6 },
      },
      { ...makeTrack({ id: "lead", kind: "melody", name: "Lead", sound: "reed-bass" }), mute },
    ]);
}

function anyPattern(
  i: number,
  metre: Project["metre"],
  tracks: readonly Track[],
  features: Features,
): fc.Arbitrary<Pattern> {
  const ids = tracks.map(({ id }) => id);
  return fc
    .record({ bars: fc.integer({ min: 1, max: 4 }), own: maybe(anyMetre) })
    .chain(({ bars, own }) => {
      const bar = barTicks(own ?? metre);
      return fc
        .record({
          colour: maybe(fc.constantFrom(...COLOURS)),
          chords: maybe(anyChords.filter((chords) => chords.length > 0)),
          star: maybe(anyHits([60, 62], { slides: false, chance: false })),
          parts: fc.tuple(...tracks.map((track) => anyPart(track, bars * bar, bar, ids, features))),
        })
        .map(({ star, ...pattern }) =>
          lean({
            ...pattern,
            id: `p${i}`,
            name: nth(["A", "B", "C"], i),
            bars,
            metre: own,
            stars:
              star && star.length > 0
                ? [
                    {
                      track: "lead",
                      seed: 3,
                      notes: star.filter(({ start }) => start >= 0),
                    } satisfies Starred,
                  ]
                : undefined,
          }),
        );
    });
}

const anySong = (
  patterns: readonly Pattern[],
  { pieces = true }: Features,
): fc.Arbitrary<readonly SongEntry[]> =>
  fc
    .array(
      fc.record({
        pattern: fc.constantFrom(...patterns.map(({ id }) => id)),
        times: fc.integer({ min: 1, max: 4 }),
        bars: pieces ? maybe(fc.integer({ min: 1, max: 9 })) : fc.constant(undefined),
        skip: pieces ? maybe(fc.integer({ min: 1, max: 3 })) : fc.constant(undefined),
        tempo: maybe(fc.constantFrom(90, 140)),
        name: maybe(fc.constantFrom("Verse", "Chorus")),
        mutes: maybe(fc.constantFrom(["bass"], ["drums", "lead"])),
        chords: maybe(anyChords.filter((chords) => chords.length > 0)),
        continues: maybe(fc.constant(true as const)),
      }),
      { maxLength: 4 },
    )
    .map((song) => song.map((entry, i) => lean({ ...entry, id: `s${i}` })));

/**
 * Whole projects with every feature of the score at once: lanes with loops and grids of their own, conditions and
 * chances, chains, patterns in other metres, early hits, bends, songs of sections that begin inside their loops.
 */
export function anyProject(features: Features = {}): fc.Arbitrary<Project> {
  return fc
    .record({
      metre: anyMetre,
      tracks: anyTracks(features),
      count: fc.integer({ min: 1, max: 3 }),
      seed: maybe(fc.integer({ min: 1, max: 1000 })),
      room: maybe(fc.constant({ size: 70 })),
      tempo: fc.constantFrom(72, 120, 174.5),
    })
    .chain(({ count, metre, tracks, ...head }) =>
      fc
        .tuple(...Array.from({ length: count }, (_, i) => anyPattern(i, metre, tracks, features)))
        .chain((patterns) =>
          (features.song === false ? fc.constant([]) : anySong(patterns, features)).map((song) =>
            lean<Project>({
              ...createProject({ name: "Slack Water" }),
              ...head,
              metre,
              tracks,
              patterns,
              song,
            }),
          ),
        ),
    );
}
