import { and, eq } from "drizzle-orm";
import { problemsOf } from "@/core/params";
import { type Part, partSchema, sortNotes } from "@/core/score";
import { type Change, type PartEdit, type SentChange, applyPartEdit } from "@/core/stored";
import { refuse } from "./change";
import { ApiError } from "./errors";
import { partOfRow, type Rows } from "./rows";
import { parts } from "./schema";

/**
 * The change with its edits of parts laid over the parts as they are kept, which are those it was made
 * on. Throws an ApiError 422 for a part that is not there, and where the part would not be one.
 */
export function expanded(rows: Rows, projectId: string, sent: SentChange): Change {
  const { partEdits = [], ...change } = sent;
  if (partEdits.length === 0) return change;
  const edited = partEdits.map((edit, i) => {
    const path = `change.partEdits[${i}]`;
    const kept = readPart(rows, projectId, edit);
    if (!kept) {
      throw new ApiError(422, `Not valid: ${path} names a track or pattern that is not there`);
    }
    const part = applyPartEdit(kept, edit);
    // What was kept has been checked once; what it becomes may still be too much.
    refuse(
      problemsOf(partSchema, part).map((problem) => ({
        ...problem,
        path: `${path}: ${problem.path}`,
      })),
    );
    return { pattern: edit.pattern, part };
  });
  return { ...change, parts: [...(change.parts ?? []), ...edited] };
}

function readPart(rows: Rows, projectId: string, { pattern, track }: PartEdit): Part | null {
  const row = rows
    .select()
    .from(parts)
    .where(
      and(eq(parts.projectId, projectId), eq(parts.patternId, pattern), eq(parts.trackId, track)),
    )
    .get();
  if (!row) return null;
  const part = partOfRow(row);
  return { ...part, notes: sortNotes(part.notes) };
}
