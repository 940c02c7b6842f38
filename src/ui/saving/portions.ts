import type { Part, Project } from "@/core/score";
import { type Change, type SentChange, packChange } from "@/core/stored";

/** Parts of more notes than this are sent as what differs. */
const MANY = 100;
/** So many notes go in one request, about 6 MB: a larger change goes in portions. */
const MAX_NOTES = 40_000;

/**
 * The first portion of a change that goes in one request: all of it where it is small enough; else what
 * stands by itself first (head, tracks, patterns, with new parts empty where they are large), then parts.
 * Each portion leaves a whole project.
 */
export function firstPortion(change: Change, confirmed: Project): Change {
  const parts = change.parts ?? [];
  if (weight(parts) <= MAX_NOTES) return change;
  const { parts: _, ...rest } = change;
  const known = new Set(
    confirmed.patterns.flatMap((pattern) =>
      pattern.parts.map((part) => `${pattern.id}\n${part.track}`),
    ),
  );
  const isNew = ({ pattern, part }: { pattern: string; part: Part }) =>
    !known.has(`${pattern}\n${part.track}`);
  if (Object.keys(rest).length > 0) {
    const fresh = parts.filter(isNew);
    const large = weight(fresh) > MAX_NOTES;
    const put = fresh.map(({ pattern, part }) => ({
      pattern,
      part: large ? { ...part, notes: [] } : part,
    }));
    return put.length > 0 ? { ...rest, parts: put } : rest;
  }
  const some: typeof parts = [];
  let notes = 0;
  for (const one of parts) {
    notes += one.part.notes.length;
    if (some.length > 0 && notes > MAX_NOTES) break;
    some.push(one);
  }
  return { parts: some };
}

const weight = (parts: readonly { part: Part }[]) =>
  parts.reduce((sum, { part }) => sum + part.notes.length, 0);

/** A change as it is sent, made on what the server has: of large parts only what differs. */
export const sentChange = (change: Change, confirmed: Project): SentChange =>
  packChange(
    change,
    confirmed,
    ({ put }, before, { notes }) =>
      Math.max(before.notes.length, notes.length) >= MANY && put.length <= notes.length / 2,
  );
