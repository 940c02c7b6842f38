import { and, eq, isNull, like, lt, sql } from "drizzle-orm";
import { nanoid } from "nanoid";
import { LIMITS, type Project, samplesOf } from "@/core/score";
import type { Change, SentChange, StoredProject } from "@/core/stored";
import { type SampleFile, nextFree } from "@/core/formats";
import { chainProblems, refuse } from "./change";
import { expanded } from "./part-edits";
import { readSummary, summaryOf, unreadable, type Summary } from "./summary";
import type { Database } from "./database";
import { ApiError, storageError } from "./errors";
import { STALE } from "./library";
import { MAX_SAMPLE } from "./http";
import {
  applyRows,
  insertProject,
  rawRows,
  readIds,
  readProject,
  type ProjectRow,
  type Rows,
} from "./rows";
import { SampleService } from "./samples";
import { projects, saves } from "./schema";

/** What can be done with the projects of one database. All throw an `ApiError` for unknown ids. */
export class ProjectService {
  readonly samples: SampleService;

  constructor(
    readonly database: Database,
    private readonly now: () => number = Date.now,
  ) {
    this.samples = new SampleService(database, now);
  }

  read(id: string): StoredProject {
    const row = this.row(this.database, id);
    const project = this.whole(row);
    return { id, revision: row.revision, stamp: row.stamp, updatedAt: row.updatedAt, project };
  }

  /** Throws an ApiError 422 where what is kept cannot be read as a project. */
  private whole(row: KnownRow): Project {
    try {
      const { song } = this.database
        .select({ song: projects.song })
        .from(projects)
        .where(eq(projects.id, row.id))
        .get()!;
      return readProject(this.database, { ...row, song });
    } catch (error) {
      if (storageError(error)) throw error;
      throw new ApiError(
        422,
        `“${row.name}” cannot be read: ${(error as Error).message}. It can be exported as it is kept, and deleted.`,
      );
    }
  }

  /** Whether a project is at another save than the one given, without reading it whole. */
  isOther(id: string, revision: number, stamp: string | null): boolean {
    const row = this.row(this.database, id);
    return row.revision !== revision || (stamp !== null && row.stamp !== stamp);
  }

  /** Puts a new project in. Samples it uses must be here already. */
  /** A name that no project has, deleted ones aside: with a number behind it where it is taken. */
  freeName(name: string): string {
    const rows = this.database
      .select({ name: projects.name })
      .from(projects)
      .where(and(like(projects.name, `${name}%`), isNull(projects.deletedAt)))
      .all();
    return nextFree(
      name,
      rows.map((row) => row.name),
    );
  }

  create(project: Project): StoredProject {
    this.samples.require(project);
    const id = nanoid(12);
    const now = this.now();
    const stamp = nanoid(8);
    const summary = summaryOf(project);
    this.database.transaction((rows) => {
      insertProject(rows, id, project, now);
      rows
        .update(projects)
        .set({ stamp, summary, summaryRevision: 1 })
        .where(eq(projects.id, id))
        .run();
      rows.insert(saves).values({ projectId: id, revision: 1, stamp }).run();
    });
    return { id, revision: 1, stamp, updatedAt: now, project };
  }

  /**
   * Takes a project in from a file with the samples it brought. A sample that is no sound, or not
   * what its id says, or in use and missing, refuses the whole file.
   */
  import(project: Project, files: readonly SampleFile[]): StoredProject {
    return this.database.transaction(() => {
      const used = new Set(samplesOf(project).map((sample) => sample.id));
      for (const file of files) {
        if (!used.has(file.id)) continue;
        const bytes = Buffer.from(file.data, "base64");
        if (bytes.length > MAX_SAMPLE) {
          throw new ApiError(
            413,
            `The sample “${file.name}” is larger than 20 MB, which is the most`,
          );
        }
        const kept = this.samples.add(bytes, file.name);
        if (kept.id !== file.id) {
          throw new ApiError(422, `Not valid: the sample “${file.name}” is not what its id says`);
        }
      }
      return this.create(project);
    });
  }

  nameOf(id: string): string {
    return this.row(this.database, id).name;
  }

  /** Whether what the library shows of a project is of an earlier save. */
  summaryIsStale(id: string): boolean {
    return this.row(this.database, id).stale === 1;
  }

  /** Why a project cannot be opened, as it was last looked at; null where it can. */
  problemOf(id: string): string | null {
    const [card] = this.database
      .select({ summary: sql<string | null>`${projects.summary}` })
      .from(projects)
      .where(eq(projects.id, id))
      .all();
    return readSummary(card?.summary ?? null)?.problem ?? null;
  }

  /** The rows of a project as they are kept, as JSON. */
  raw(id: string): { name: string; rows: string } {
    const { name } = this.row(this.database, id);
    return { name, rows: rawRows(this.database, id) };
  }

  duplicate(id: string): StoredProject {
    const { project } = this.read(id);
    return this.create({ ...project, name: `${project.name.slice(0, 74)} copy` });
  }

  /**
   * Saves a change made on a revision and returns the new one. A stale revision is answered with
   * 409 and the project as it is now, and whether what the change was made on is one of its last saves
   * (`known`): where it is not, an older file was put back. A change that would leave the project broken
   * is answered with 422. Either way nothing is written.
   */
  change(id: string, revision: number, sent: SentChange, stamp?: string): Saved {
    return this.database.transaction(
      (rows) => {
        const row = this.row(rows, id);
        if (row.revision !== revision || (stamp !== undefined && row.stamp !== stamp)) {
          throw new ApiError(
            409,
            `This project has changed since: it is at revision ${row.revision}, not ${revision}`,
            { current: { ...this.read(id) }, known: this.wasSaved(rows, id, revision, stamp) },
          );
        }
        const change = expanded(rows, id, sent);
        this.samples.require(change);
        try {
          applyRows(rows, id, change);
        } catch (error) {
          if (!isForeignKeyError(error)) throw error;
          throw new ApiError(422, "Not valid: a part names a track or pattern that is not there");
        }
        this.checkWhole(rows, id, change);
        const saved = { revision: revision + 1, stamp: nanoid(8), updatedAt: this.now() };
        rows.update(projects).set(saved).where(eq(projects.id, id)).run();
        rows
          .insert(saves)
          .values({ projectId: id, revision: saved.revision, stamp: saved.stamp })
          .onConflictDoUpdate({
            target: [saves.projectId, saves.revision],
            set: { stamp: saved.stamp },
          })
          .run();
        rows
          .delete(saves)
          .where(and(eq(saves.projectId, id), lt(saves.revision, saved.revision - SAVES_KNOWN)))
          .run();
        return saved;
      },
      { behavior: "immediate" },
    );
  }

  /** Whether a project was once saved so; a page that knows no stamp is taken at its word. */
  private wasSaved(rows: Rows, id: string, revision: number, stamp: string | undefined): boolean {
    if (stamp === undefined) return true;
    const there = rows
      .select({ stamp: saves.stamp })
      .from(saves)
      .where(and(eq(saves.projectId, id), eq(saves.revision, revision)))
      .get();
    if (there) return there.stamp === stamp;
    // Older than the saves that are remembered, or of another file.
    const oldest = rows
      .select({ revision: saves.revision })
      .from(saves)
      .where(eq(saves.projectId, id))
      .orderBy(saves.revision)
      .get();
    return oldest !== undefined && revision < oldest.revision && oldest.revision > 1;
  }

  /** Brings what the library shows of a project up to date; null where it is. */
  summarise(id: string): Summary | null {
    const row = this.row(this.database, id);
    if (row.stale === 0) return null;
    const summary = summaryOf(this.whole(row));
    this.keepSummary(id, row.revision, summary);
    return summary;
  }

  /** Keeps that a project could not be looked at, so that it is not tried again until it changes. */
  cannotRead(id: string, why: string): void {
    this.keepSummary(id, this.row(this.database, id).revision, unreadable(why));
  }

  private keepSummary(id: string, summaryRevision: number, summary: Summary): void {
    this.database
      .update(projects)
      .set({ summary, summaryRevision })
      .where(eq(projects.id, id))
      .run();
  }

  /** Deletes a project so that `restore` can bring it back. */
  remove(id: string): void {
    this.row(this.database, id);
    this.database.update(projects).set({ deletedAt: this.now() }).where(eq(projects.id, id)).run();
  }

  restore(id: string): void {
    const done = this.database
      .update(projects)
      .set({ deletedAt: null })
      .where(eq(projects.id, id))
      .run();
    if (done.changes === 0) throw unknownProject(id);
  }

  private row(rows: Rows, id: string) {
    const row = rows.select(KNOWN).from(projects).where(eq(projects.id, id)).get();
    if (!row || row.deletedAt !== null) throw unknownProject(id);
    return row;
  }

  /** One part per track in every pattern, no song entry without a pattern, no step that names no track. */
  private checkWhole(rows: Rows, id: string, change: Change): void {
    const ids = readIds(rows, id);
    refuse(chainProblems(change, new Set(ids.tracks)));
    const have = new Set(ids.parts.map((part) => `${part.pattern}\n${part.track}`));
    const problems = ids.patterns.flatMap((pattern) =>
      ids.tracks
        .filter((track) => !have.has(`${pattern}\n${track}`))
        .map((track) => ({
          path: "change.parts",
          reason: `pattern “${pattern}” would have no part for track “${track}”`,
        })),
    );
    if (ids.tracks.length > LIMITS.tracks || ids.patterns.length > LIMITS.patterns) {
      const reason = `would hold more than ${LIMITS.tracks} tracks or ${LIMITS.patterns} patterns`;
      problems.push({ path: "change", reason });
    }
    if (ids.patterns.length === 0) {
      problems.push({ path: "change.patternOrder", reason: "would leave no pattern" });
    }
    if (change.trackOrder && change.trackOrder.length !== ids.tracks.length) {
      problems.push({ path: "change.trackOrder", reason: "names a track that is not there" });
    }
    if (change.patternOrder && change.patternOrder.length !== ids.patterns.length) {
      problems.push({ path: "change.patternOrder", reason: "names a pattern that is not there" });
    }
    if (!change.head && !change.patternOrder && !change.trackOrder) {
      refuse(problems);
      return;
    }
    const { song } = rows
      .select({ song: projects.song })
      .from(projects)
      .where(eq(projects.id, id))
      .get()!;
    for (const entry of song) {
      if (!ids.patterns.includes(entry.pattern)) {
        problems.push({ path: "change.head.song", reason: `“${entry.pattern}” is no pattern` });
      }
      const gone = entry.mutes?.find((track) => !ids.tracks.includes(track));
      if (gone !== undefined) {
        problems.push({ path: "change.head.song", reason: `“${gone}” is no track` });
      }
    }
    refuse(problems);
  }
}

/** The columns that are read before anything else: none of them can fail to be read. */
const KNOWN = {
  id: projects.id,
  name: projects.name,
  tempo: projects.tempo,
  metreBeats: projects.metreBeats,
  metreUnit: projects.metreUnit,
  keyRoot: projects.keyRoot,
  keyScale: projects.keyScale,
  room: projects.room,
  seed: projects.seed,
  revision: projects.revision,
  stamp: projects.stamp,
  updatedAt: projects.updatedAt,
  deletedAt: projects.deletedAt,
  stale: STALE,
};
type KnownRow = Omit<ProjectRow, "song">;

/** How many of a project's last saves are remembered. */
const SAVES_KNOWN = 200;

interface Saved {
  revision: number;
  stamp: string;
  updatedAt: number;
}

function unknownProject(id: string): ApiError {
  return new ApiError(404, `There is no project “${id.slice(0, 40)}”`);
}

function isForeignKeyError(error: unknown): boolean {
  const codes = [error, (error as { cause?: unknown }).cause].map(
    (e) => (e as { code?: string })?.code,
  );
  return codes.includes("SQLITE_CONSTRAINT_FOREIGNKEY");
}
