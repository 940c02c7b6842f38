import * as yup from "yup";

/** How much of a project a file is to hold. `loop`: the pattern, its end leading into its beginning. */
export const EXTENTS = [
  "pattern",
  "song",
  "range",
  "loop",
  "track",
  "lane",
  "selection",
  "project",
] as const;
export type Extent = (typeof EXTENTS)[number];

/** What is current where a file is asked for. */
export interface Current {
  pattern: string;
  track: string;
  /** The current lane of a kit. */
  lane: number | null;
  /** Ids of the selected notes of the current part. */
  selection: readonly string[];
  /** Those of other tracks. */
  beside?: readonly NotesOf[];
  /** Ticks that are looped: of the pattern, or of the song. */
  range: { pattern: string | null; ticks: readonly [number, number] } | null;
}

/** Ids of notes of a track's part. */
interface NotesOf {
  track: string;
  notes: readonly string[];
}

/** What of a project a file is to hold, by its names: all of it where nothing is said. */
export interface Scope {
  pattern?: string;
  track?: string;
  lane?: number;
  /** Ids of notes of the pattern's part. */
  notes?: readonly string[];
  /** Notes of other tracks' parts, which come with them. */
  beside?: readonly NotesOf[];
  /** Two ticks with a space between. */
  range?: string;
}

const NOTES = yup.array(yup.string().strict().required().max(64)).strict().label("Notes");

const SHAPE = {
  pattern: yup.string().strict().max(64).label("Pattern"),
  track: yup.string().strict().max(64).label("Track"),
  lane: yup.number().strict().integer().min(0).max(127).label("Lane"),
  range: yup
    .string()
    .strict()
    .matches(/^\d{1,12} \d{1,12}$/, "must be two ticks")
    .label("Range"),
  notes: NOTES,
  beside: yup
    .array(yup.object({ track: yup.string().strict().required().max(64), notes: NOTES.required() }))
    .strict()
    .label("Notes of other tracks"),
};

/** What a scope may name, where a file can hold so much. */
const NAMES: Readonly<Record<Extent, readonly (keyof Scope)[]>> = {
  project: [],
  song: [],
  pattern: ["pattern"],
  loop: ["pattern"],
  range: ["pattern", "range"],
  track: ["pattern", "track"],
  lane: ["pattern", "track", "lane"],
  selection: ["pattern", "track", "notes", "beside"],
};

/** Schema pieces for what a scope may name, of a format that can hold so much. */
export function scopeShape(extents: readonly Extent[]): yup.ObjectShape {
  const names = new Set(extents.flatMap((extent) => NAMES[extent]));
  return Object.fromEntries(
    Object.entries(SHAPE).filter(([name]) => names.has(name as keyof Scope)),
  );
}

/** The scope that an extent means, given what is current. */
export function scopeOf(extent: Extent, current: Current): Scope {
  const { pattern, track, lane, selection, beside = [], range } = current;
  if (extent === "song" || extent === "project") return {};
  if (extent === "range" && range) {
    const ticks = range.ticks.join(" ");
    return range.pattern === null ? { range: ticks } : { range: ticks, pattern };
  }
  if (extent === "track") return { pattern, track };
  if (extent === "lane") return { pattern, track, ...(lane !== null && { lane }) };
  if (extent === "selection")
    return { pattern, track, notes: [...selection], ...(beside.length > 0 && { beside }) };
  return { pattern };
}

/** The two ticks of a scope's range; undefined where it has none. */
export function rangeOf({ range }: Scope): readonly [from: number, to: number] | undefined {
  const [from, to] = range?.split(" ").map(Number) ?? [];
  return from === undefined || to === undefined ? undefined : [from, to];
}
