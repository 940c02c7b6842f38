import { and, asc, eq, notInArray } from "drizzle-orm";
import type { Part, Project, Track } from "@/core/score";
import {
  type Change,
  type PatternHead,
  type ProjectHead,
  headOf,
  patternHead,
  upgrade,
} from "@/core/stored";
import type { Database } from "./database";
import { parts, patterns, projects, tracks } from "./schema";

/** A connection or a transaction of it. */
export type Rows = Pick<Database, "select" | "insert" | "update" | "delete">;

export type ProjectRow = Omit<
  typeof projects.$inferSelect,
  "createdAt" | "summary" | "summaryRevision"
>;

/** The columns of a project’s own row, from its head. */
export function headColumns(head: ProjectHead) {
  return {
    name: head.name,
    tempo: head.tempo,
    metreBeats: head.metre.beats,
    metreUnit: head.metre.unit,
    keyRoot: head.key.root,
    keyScale: head.key.scale,
    song: head.song,
    seed: head.seed ?? null,
    room: head.room ?? null,
  };
}

function trackColumns(track: Track) {
  const { id, kind, name, sound, level, pan, mute, solo, lanes } = track;
  const { kit = null, shaping = null, mix = null } = track;
  return { id, kind, name, sound, level, pan, mute, solo, lanes, kit, shaping, mix };
}

function partColumns(part: Part) {
  return {
    trackId: part.track,
    length: part.length,
    grid: part.grid,
    notes: part.notes,
    chain: part.chain,
    generated: part.generated ?? null,
    bend: part.bend ?? null,
  };
}

function patternColumns({ id, name, bars, ...head }: PatternHead) {
  const { colour = null, metre = null, chords = null, recording = null, stars = null } = head;
  return { id, name, bars, colour, metre, chords, recording, stars };
}

/** Puts a new project's rows in. */
export function insertProject(rows: Rows, id: string, project: Project, now: number): void {
  rows
    .insert(projects)
    .values({ id, ...headColumns(headOf(project)), revision: 1, createdAt: now, updatedAt: now })
    .run();
  applyRows(rows, id, {
    tracks: [...project.tracks],
    trackOrder: project.tracks.map((track) => track.id),
    patterns: project.patterns.map(patternHead),
    patternOrder: project.patterns.map((pattern) => pattern.id),
    parts: project.patterns.flatMap((pattern) =>
      pattern.parts.map((part) => ({ pattern: pattern.id, part })),
    ),
  });
}

/** Writes the rows a change names, and no others. */
export function applyRows(rows: Rows, projectId: string, change: Change): void {
  if (change.head) {
    rows.update(projects).set(headColumns(change.head)).where(eq(projects.id, projectId)).run();
  }
  for (const track of change.tracks ?? []) {
    const columns = trackColumns(track);
    rows
      .insert(tracks)
      .values({ projectId, position: change.trackOrder?.indexOf(track.id) ?? 0, ...columns })
      .onConflictDoUpdate({ target: [tracks.projectId, tracks.id], set: columns })
      .run();
  }
  for (const head of change.patterns ?? []) {
    const columns = patternColumns(head);
    rows
      .insert(patterns)
      .values({ projectId, position: change.patternOrder?.indexOf(head.id) ?? 0, ...columns })
      .onConflictDoUpdate({ target: [patterns.projectId, patterns.id], set: columns })
      .run();
  }
  if (change.trackOrder) reorder(rows, tracks, projectId, change.trackOrder);
  if (change.patternOrder) reorder(rows, patterns, projectId, change.patternOrder);
  for (const { pattern, part } of change.parts ?? []) {
    const columns = partColumns(part);
    rows
      .insert(parts)
      .values({ projectId, patternId: pattern, ...columns })
      .onConflictDoUpdate({
        target: [parts.projectId, parts.patternId, parts.trackId],
        set: columns,
      })
      .run();
  }
}

/** Gives the rows their places and takes away those the order does not name (their parts follow). */
function reorder(
  rows: Rows,
  table: typeof tracks | typeof patterns,
  projectId: string,
  order: readonly string[],
): void {
  rows
    .delete(table)
    .where(and(eq(table.projectId, projectId), notInArray(table.id, [...order])))
    .run();
  order.forEach((id, position) => {
    rows
      .update(table)
      .set({ position })
      .where(and(eq(table.projectId, projectId), eq(table.id, id)))
      .run();
  });
}

/** Reads a whole project; null when there are no such rows. */
export function readProject(rows: Rows, row: ProjectRow): Project {
  const trackRows = rows
    .select()
    .from(tracks)
    .where(eq(tracks.projectId, row.id))
    .orderBy(asc(tracks.position))
    .all();
  const patternRows = rows
    .select()
    .from(patterns)
    .where(eq(patterns.projectId, row.id))
    .orderBy(asc(patterns.position))
    .all();
  const partRows = rows.select().from(parts).where(eq(parts.projectId, row.id)).all();
  const place = new Map(trackRows.map((track, i) => [track.id, i]));
  return upgrade({
    name: row.name,
    tempo: row.tempo,
    metre: { beats: row.metreBeats, unit: row.metreUnit },
    key: { root: row.keyRoot, scale: row.keyScale },
    tracks: trackRows.map(({ projectId: _, position: __, kit, shaping, mix, ...track }) => ({
      ...track,
      ...(kit && { kit }),
      ...(shaping && { shaping }),
      ...(mix && { mix }),
    })),
    patterns: patternRows.map(({ id, name, bars, colour, metre, chords, recording, stars }) => ({
      id,
      name,
      bars,
      ...(colour && { colour }),
      ...(metre && { metre }),
      ...(chords && { chords }),
      ...(recording && { recording }),
      ...(stars && { stars }),
      parts: partRows
        .filter((part) => part.patternId === id)
        .sort((a, b) => (place.get(a.trackId) ?? 0) - (place.get(b.trackId) ?? 0))
        .map(partOfRow),
    })),
    song: row.song,
    ...(row.seed && { seed: row.seed }),
    ...(row.room && { room: row.room }),
  });
}

/** A part from its row. */
export const partOfRow = (row: typeof parts.$inferSelect): Part => {
  const { trackId, length, grid, notes, chain, generated, bend } = row;
  return {
    track: trackId,
    length,
    grid,
    notes,
    chain,
    ...(generated && { generated }),
    ...(bend && { bend }),
  };
};

/** Ids a project has now: what a change must leave whole. */
export function readIds(rows: Rows, projectId: string) {
  const ids = <T extends typeof tracks | typeof patterns>(table: T) =>
    rows
      .select({ id: table.id })
      .from(table)
      .where(eq(table.projectId, projectId))
      .all()
      .map((row) => row.id as string);
  return {
    tracks: ids(tracks),
    patterns: ids(patterns),
    parts: rows
      .select({ pattern: parts.patternId, track: parts.trackId })
      .from(parts)
      .where(eq(parts.projectId, projectId))
      .all(),
  };
}

/** How many bytes the parts of a project take, as they are kept. */
export function projectBytes({ $client }: Pick<Database, "$client">, projectId: string): number {
  const row = $client
    .prepare(
      "select coalesce(sum(length(notes) + length(chain) + length(coalesce(bend, ''))), 0) as n from parts where project_id = ?",
    )
    .get(projectId) as { n: number };
  return row.n;
}

const RAW_TABLES = ["projects", "tracks", "patterns", "parts"] as const;

/** A project's rows as they are kept, text for text: what can be had of one that cannot be read. */
export function rawRows({ $client }: Pick<Database, "$client">, projectId: string): string {
  const tables = RAW_TABLES.map((table) => {
    const key = table === "projects" ? "id" : "project_id";
    return [table, $client.prepare(`select * from ${table} where ${key} = ?`).all(projectId)];
  });
  return JSON.stringify(Object.fromEntries(tables), null, 1);
}
