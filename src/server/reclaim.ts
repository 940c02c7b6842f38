import { and, eq, isNotNull, lt } from "drizzle-orm";
import { type Track, samplesOf } from "@/core/score";
import { KIT_PRESETS } from "@/core/stored";
import type { Database } from "./database";
import { patterns, presets, projects, samples, tracks } from "./schema";
import { must } from "@/core/base";

/** Deleted projects, and sounds that no project uses, are kept for so many days. */
export const KEPT_DAYS = 30;

/**
 * Clears away projects that were deleted longer ago than they are kept, then sounds as old that no
 * project, deleted ones included, and no kept kit uses any more. Gives how many of each went.
 */
export function reclaim(database: Database, now: number): { projects: number; samples: number } {
  const before = now - KEPT_DAYS * 24 * 60 * 60 * 1000;
  return database.transaction((rows) => {
    const gone = rows
      .delete(projects)
      .where(and(isNotNull(projects.deletedAt), lt(projects.deletedAt, before)))
      .run();
    const used = new Set<string>();
    for (const { kit } of rows
      .select({ kit: tracks.kit })
      .from(tracks)
      .where(isNotNull(tracks.kit))
      .all()) {
      for (const sample of samplesOf({ tracks: [{ kit: must(kit) }] })) used.add(sample.id);
    }
    for (const { recording } of rows
      .select({ recording: patterns.recording })
      .from(patterns)
      .where(isNotNull(patterns.recording))
      .all())
      used.add(must(recording).sample.id);
    for (const { params } of rows
      .select({ params: presets.params })
      .from(presets)
      .where(eq(presets.transform, KIT_PRESETS))
      .all()) {
      for (const sample of samplesOf({ tracks: [params as Pick<Track, "kit">] }))
        used.add(sample.id);
    }
    const old = rows
      .select({ id: samples.id })
      .from(samples)
      .where(lt(samples.createdAt, before))
      .all();
    const unused = old.filter(({ id }) => !used.has(id));
    for (const { id } of unused) rows.delete(samples).where(eq(samples.id, id)).run();
    return { projects: gone.changes, samples: unused.length };
  });
}
