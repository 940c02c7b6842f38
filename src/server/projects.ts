import { desc, eq, isNull } from "drizzle-orm";
import { nanoid } from "nanoid";
import {
  LIMITS,
  samplesOf,
  thumbnail,
  type Change,
  type Project,
  type SampleFile,
  type StoredProject,
  type Thumbnail,
} from "@/core";
import { chainProblems, refuse } from "./change";
import type { Database } from "./database";
import { ApiError } from "./errors";
import { MAX_SAMPLE } from "./http";
import { applyRows, insertProject, readIds, readProject, type Rows } from "./rows";
import { SampleService } from "./samples";
import { projects } from "./schema";

/** A project's card in the library. */
export interface ProjectCard {
  id: string;
  name: string;
  tempo: number;
  metre: Project["metre"];
  key: Project["key"];
  bars: number;
  updatedAt: number;
  thumbnail: Thumbnail;
}

/** What can be done with the projects of one database. All throw an `ApiError` for unknown ids. */
export class ProjectService {
  private readonly cards = new Map<string, { revision: number; card: ProjectCard }>();
  readonly samples: SampleService;

  constructor(
    private readonly database: Database,
    private readonly now: () => number = Date.now,
  ) {
    this.samples = new SampleService(database, now);
  }

  /** All projects that are not deleted, the last changed first. */
  list(): ProjectCard[] {
    const rows = this.database
      .select()
      .from(projects)
      .where(isNull(projects.deletedAt))
      .orderBy(desc(projects.updatedAt), desc(projects.id))
      .all();
    return rows.map((row) => this.card(row));
  }

  /** The card of a row; its picture needs the notes, so it is kept until the revision changes. */
  private card(row: typeof projects.$inferSelect): ProjectCard {
    const known = this.cards.get(row.id);
    if (known?.revision === row.revision) return known.card;
    const project = readProject(this.database, row);
    const picture = thumbnail(project);
    const { id, updatedAt } = row;
    const { name, tempo, metre, key } = project;
    const card = { id, name, tempo, metre, key, bars: picture.bars, updatedAt, thumbnail: picture };
    this.cards.set(id, { revision: row.revision, card });
    return card;
  }

  read(id: string): StoredProject {
    const row = this.row(this.database, id);
    const project = readProject(this.database, row);
    return { id, revision: row.revision, updatedAt: row.updatedAt, project };
  }

  /** The project if its revision is another than the one given, else null without reading it whole. */
  readIfOther(id: string, revision: number): StoredProject | null {
    return this.row(this.database, id).revision === revision ? null : this.read(id);
  }

  /** Puts a new project in. Samples it uses must be here already. */
  create(project: Project): StoredProject {
    this.samples.require(project.tracks);
    const id = nanoid(12);
    const now = this.now();
    this.database.transaction((rows) => insertProject(rows, id, project, now));
    return { id, revision: 1, updatedAt: now, project };
  }

  /**
   * Takes a project in from a file with the samples it brought. A sample that is no sound, or not
   * what its id says, or in use and missing, refuses the whole file.
   */
  import(project: Project, files: readonly SampleFile[]): StoredProject {
    return this.database.transaction(() => {
      const used = new Set(samplesOf(project.tracks).map((sample) => sample.id));
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

  duplicate(id: string): StoredProject {
    const { project } = this.read(id);
    return this.create({ ...project, name: `${project.name.slice(0, 74)} copy` });
  }

  /**
   * Saves a change made on a revision and returns the new one. A stale revision is answered with
   * 409 and the project as it is now; a change that would leave the project broken with 422.
   * Either way nothing is written.
   */
  change(id: string, revision: number, change: Change): { revision: number; updatedAt: number } {
    return this.database.transaction(
      (rows) => {
        const row = this.row(rows, id);
        if (row.revision !== revision) {
          throw new ApiError(
            409,
            `This project has changed since: it is at revision ${row.revision}, not ${revision}`,
            { current: { ...this.read(id) } },
          );
        }
        this.samples.require(change.tracks ?? []);
        try {
          applyRows(rows, id, change);
        } catch (error) {
          if (!isForeignKeyError(error)) throw error;
          throw new ApiError(422, "Not valid: a part names a track or pattern that is not there");
        }
        this.checkWhole(rows, id, change);
        const saved = { revision: revision + 1, updatedAt: this.now() };
        rows.update(projects).set(saved).where(eq(projects.id, id)).run();
        return saved;
      },
      { behavior: "immediate" },
    );
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
    const row = rows.select().from(projects).where(eq(projects.id, id)).get();
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
    for (const entry of this.row(rows, id).song) {
      if (!ids.patterns.includes(entry.pattern)) {
        problems.push({ path: "change.head.song", reason: `“${entry.pattern}” is no pattern` });
      }
    }
    refuse(problems);
  }
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
