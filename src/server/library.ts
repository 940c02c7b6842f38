import { and, asc, count, desc, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import * as yup from "yup";
import { problemsOf } from "@/core/params";
import { CARDS_AT_A_TIME, type ProjectCard } from "@/core/stored";
import { refuse } from "./change";
import type { Database } from "./database";
import { projects } from "./schema";
import { readSummary } from "./summary";

/** A page of the library. */
export interface LibraryPage {
  cards: ProjectCard[];
  /** How many there are in all that match. */
  total: number;
  /** How many lie deleted. */
  deleted: number;
}

export const SORTS = ["changed", "name", "tempo"] as const;
/** Cards of a page at most. */
const MAX = 200;

const querySchema = yup
  .object({
    search: yup.string().max(100).default(""),
    sort: yup
      .string()
      .oneOf([...SORTS])
      .default("changed"),
    offset: yup.number().integer().min(0).max(1e9).default(0),
    limit: yup.number().integer().min(1).max(MAX).default(CARDS_AT_A_TIME),
    deleted: yup.string().oneOf(["no", "yes"]).default("no"),
  })
  .noUnknown("has unknown fields: ${unknown}");

export type LibraryQuery = yup.InferType<typeof querySchema>;

/** Reads a query of texts; throws an ApiError 422 that names what is wrong. */
export function parseLibraryQuery(query: Record<string, string>): LibraryQuery {
  const numbers = Object.fromEntries(
    Object.entries(query).map(([name, value]) =>
      name === "offset" || name === "limit"
        ? [name, value === "" ? NaN : Number(value)]
        : [name, value],
    ),
  );
  const whole = { ...querySchema.getDefault(), ...numbers };
  refuse(problemsOf(querySchema, whole));
  return whole as LibraryQuery;
}

/** A page of projects: of the rows of `projects` alone, never of what they hold. */
export function libraryPage(database: Database, query: Partial<LibraryQuery> = {}): LibraryPage {
  const { search, sort, offset, limit, deleted } = { ...querySchema.getDefault(), ...query };
  const there = deleted === "yes" ? isNotNull(projects.deletedAt) : isNull(projects.deletedAt);
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = words.map((word) => sql`instr(lower(${projects.name}), ${word}) > 0`);
  const where = and(there, ...found);
  const order = {
    changed: desc(projects.updatedAt),
    name: asc(sql`lower(${projects.name})`),
    tempo: asc(projects.tempo),
  }[sort as (typeof SORTS)[number]];
  const rows = database
    .select({
      id: projects.id,
      name: projects.name,
      tempo: projects.tempo,
      beats: projects.metreBeats,
      unit: projects.metreUnit,
      root: projects.keyRoot,
      scale: projects.keyScale,
      updatedAt: projects.updatedAt,
      // As text: one row that cannot be read must not keep the others from being listed.
      summary: sql<string | null>`${projects.summary}`,
    })
    .from(projects)
    .where(where)
    .orderBy(order, desc(projects.updatedAt), desc(projects.id))
    .limit(limit)
    .offset(offset)
    .all();
  const counted = (condition: typeof where) =>
    database.select({ n: count() }).from(projects).where(condition).get()!.n;
  return {
    cards: rows.map(({ beats, unit, root, scale, summary, ...row }) => ({
      ...row,
      metre: { beats, unit },
      key: { root, scale },
      ...shown(summary),
    })),
    total: counted(where),
    deleted: counted(isNotNull(projects.deletedAt)),
  };
}

function shown(kept: string | null): Pick<ProjectCard, "bars" | "picture" | "problem"> {
  const { bars, picture, problem } = readSummary(kept) ?? NOT_LOOKED_AT;
  return { bars, picture, problem };
}

const NOT_LOOKED_AT = { bars: null, picture: null, problem: null };

/** Whether what the library shows of a project is missing, or of an earlier save. */
export const STALE = sql<
  0 | 1
>`(${projects.summary} is null or ${projects.summaryRevision} is not ${projects.revision})`;

/** Which of these projects have changed since their summary was made. */
export function staleSummaries(database: Database, ids: readonly string[]): string[] {
  if (ids.length === 0) return [];
  return database
    .select({ id: projects.id })
    .from(projects)
    .where(and(inArray(projects.id, [...ids]), STALE))
    .all()
    .map(({ id }) => id);
}
