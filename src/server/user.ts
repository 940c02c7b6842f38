import { and, asc, eq } from "drizzle-orm";
import { nanoid } from "nanoid";
import * as yup from "yup";
import { problemsOf } from "@/core/params";
import { LIMITS, gridSchema } from "@/core/score";
import { type Preset, type UserGrids, presetProblems } from "@/core/stored";
import { refuse } from "./change";
import type { Database } from "./database";
import { ApiError } from "./errors";
import { facts, presets } from "./schema";

const MAX_GRIDS = 24;
const MAX_PRESETS = 500;

const gridsSchema = yup
  .object({
    recent: yup.array(gridSchema).strict().max(MAX_GRIDS).defined(),
    pinned: yup.array(gridSchema).strict().max(MAX_GRIDS).defined(),
  })
  .strict()
  .noUnknown("has unknown fields: ${unknown}")
  .required();

const presetSchema = yup
  .object({
    transform: yup.string().strict().required(),
    name: yup.string().strict().trim().min(1).max(LIMITS.name).required(),
    params: yup.object().strict().required(),
  })
  .strict()
  .noUnknown("has unknown fields: ${unknown}")
  .required();

/** What belongs to the user and not to a project: recent grids and presets. */
export class UserService {
  constructor(
    private readonly database: Database,
    private readonly now: () => number = Date.now,
  ) {}

  grids(): UserGrids {
    const row = this.database.select().from(facts).where(eq(facts.name, "grids")).get();
    return row ? (JSON.parse(row.value) as UserGrids) : { recent: [], pinned: [] };
  }

  setGrids(body: unknown): UserGrids {
    refuse(problemsOf(gridsSchema, body));
    const value = JSON.stringify(body);
    this.database
      .insert(facts)
      .values({ name: "grids", value })
      .onConflictDoUpdate({ target: facts.name, set: { value } })
      .run();
    return body as UserGrids;
  }

  presets(): Preset[] {
    const rows = this.database.select().from(presets).orderBy(asc(presets.name)).all();
    return rows.map(({ createdAt: _, ...preset }) => preset);
  }

  /** Keeps a preset; one of the same transform and name is replaced. */
  addPreset(body: unknown): Preset {
    refuse(problemsOf(presetSchema, body));
    const { transform, name, params } = body as Omit<Preset, "id">;
    const problems = presetProblems(transform, params);
    if (!problems) throw new ApiError(422, `Not valid: “${transform}” is no known transform`);
    refuse(problems);
    const all = this.presets();
    const same = and(eq(presets.transform, transform), eq(presets.name, name));
    const there = all.find((preset) => preset.transform === transform && preset.name === name);
    if (!there && all.length >= MAX_PRESETS) {
      throw new ApiError(
        422,
        `There are ${MAX_PRESETS} presets, which is the most: delete one first`,
      );
    }
    if (there) {
      this.database.update(presets).set({ params }).where(same).run();
      return { ...there, params };
    }
    const preset = { id: nanoid(10), transform, name, params };
    this.database
      .insert(presets)
      .values({ ...preset, createdAt: this.now() })
      .run();
    return preset;
  }

  removePreset(id: string): void {
    const done = this.database.delete(presets).where(eq(presets.id, id)).run();
    if (done.changes === 0) throw new ApiError(404, `There is no preset “${id.slice(0, 40)}”`);
  }
}
