import { createHash } from "node:crypto";
import { eq, inArray, sql } from "drizzle-orm";
import { LIMITS, type Project, type SampleRef, type UsesSamples, samplesOf } from "@/core/score";
import { AUDIO_TYPES, type SampleFile, audioKind } from "@/core/formats";
import type { Database } from "./database";
import { ApiError } from "./errors";
import { samples } from "./schema";

/** A sample with its bytes and media type. */
export interface StoredSample extends SampleRef {
  type: string;
  bytes: Buffer;
}

/** The user's own sounds, kept under the hash of their bytes, so that the same one is kept once. */
export class SampleService {
  constructor(
    private readonly database: Database,
    private readonly now: () => number = Date.now,
  ) {}

  /** Keeps a file; throws a `FormatError` where it is no audio file, or a broken one. */
  add(bytes: Uint8Array, fileName: string): SampleRef {
    const type = AUDIO_TYPES[audioKind(bytes)];
    const id = createHash("sha256").update(bytes).digest("hex").slice(0, 32);
    const name = fileName.trim().slice(0, LIMITS.name) || "Sample";
    this.database
      .insert(samples)
      .values({ id, name, type, bytes: Buffer.from(bytes), createdAt: this.now() })
      .onConflictDoNothing()
      .run();
    return { id, name };
  }

  read(id: string): StoredSample {
    const row = this.database.select().from(samples).where(eq(samples.id, id)).get();
    if (!row) throw new ApiError(404, `There is no sample “${id.slice(0, 40)}”`);
    return { id: row.id, name: row.name, type: row.type, bytes: row.bytes };
  }

  /** Throws an ApiError 422 that names samples which are not here. */
  require(used: UsesSamples): void {
    const wanted = samplesOf(used);
    if (wanted.length === 0) return;
    const ids = wanted.map((sample) => sample.id);
    const have = new Set(
      this.database
        .select({ id: samples.id })
        .from(samples)
        .where(inArray(samples.id, ids))
        .all()
        .map((row) => row.id),
    );
    const missing = wanted.filter((sample) => !have.has(sample.id));
    if (missing.length === 0) return;
    const names = missing.map((sample) => `“${sample.name}”`).join(", ");
    throw new ApiError(422, `Not valid: the samples ${names} are not here`, {
      problems: missing.map(({ id }) => ({ path: "samples", reason: `sample ${id} is not here` })),
    });
  }

  /** How many bytes the samples of a project or a part of one hold together. */
  sizeOf(used: UsesSamples): number {
    const ids = samplesOf(used).map((sample) => sample.id);
    if (ids.length === 0) return 0;
    return this.database
      .select({ size: sql<number>`length(${samples.bytes})` })
      .from(samples)
      .where(inArray(samples.id, ids))
      .all()
      .reduce((sum, { size }) => sum + size, 0);
  }

  /** The files of the samples a project uses, to go along in its own file. */
  filesOf(project: Project): SampleFile[] {
    return samplesOf(project).map((ref) => {
      const { id, name, bytes } = this.read(ref.id);
      return { id, name, data: bytes.toString("base64") };
    });
  }
}
