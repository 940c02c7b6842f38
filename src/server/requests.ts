import type { StoredProject } from "@/core/stored";
import { ApiError } from "./errors";
import { tasks } from "./heavy/tasks";
import { LITTLE } from "./http";
import { projectBytes } from "./rows";
import { database, heavy, service } from "./store";
import { summarise } from "./summaries";

/** Saves a little change at once: what it costs is less than a thread's round trip. */
export function changeLittle(id: string, body: Uint8Array) {
  return tasks(service()).change(id, body);
}

const isLittle = (id: string) => projectBytes(database(), id) <= LITTLE;

/** A project as JSON: at once while it is little, else from a thread. */
export async function readWhole(id: string): Promise<Uint8Array<ArrayBuffer>> {
  return isLittle(id) ? tasks(service()).read(id) : heavy().run("read", id);
}

/** A project to be opened: whole where it is little, to be fetched by the page where it is not, or why it cannot be. */
export async function openProject(
  id: string,
): Promise<{ stored: StoredProject | null } | { problem: string }> {
  // Looked at in a thread first: what is vast in playing may be small to read.
  if (service().summaryIsStale(id)) await summarise(id);
  const problem = service().problemOf(id);
  if (problem) return { problem };
  if (!isLittle(id)) return { stored: null };
  try {
    return { stored: service().read(id) };
  } catch (error) {
    if (error instanceof ApiError && error.status === 422) return { problem: error.message };
    throw error;
  }
}
