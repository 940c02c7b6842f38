import type { Project, SampleRef } from "@/core/score";
import type { Preset, ProjectCard, SentChange, StoredProject, UserGrids } from "@/core/stored";
import { ANSWERS, isAnswer, type Answer } from "./answers";

/** What the server said no to, or that it did not answer, or not with what was asked for (`status` 0). */
export class RequestError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly body: Record<string, unknown> = {},
  ) {
    super(message);
    this.name = "RequestError";
  }
}

/** A request that takes longer is given up: the next one may be answered. */
const PATIENCE_MS = 10_000;
/** Files go over in their own time. */
const PATIENCE_FILE_MS = 120_000;
/** What a browser still sends for a page that is gone (Fetch standard: 64 KiB in flight). */
const MAX_KEPT_ALIVE = 60_000;

/**
 * Asks the server and gives its answer, if it is one of those `wanted`: one that was cut short, or is of
 * another shape, is none.
 */
async function call<T>(
  path: string,
  wanted: readonly Answer[],
  init: RequestInit = {},
  patience = PATIENCE_MS,
): Promise<T> {
  let response: Response;
  let body: unknown;
  try {
    response = await fetch(path, {
      ...init,
      cache: "no-store",
      signal: AbortSignal.timeout(patience),
    });
    const text = await response.text();
    body = parsed(text);
  } catch {
    throw new RequestError(0, "The server does not answer");
  }
  if (!response.ok) {
    const details = (typeof body === "object" && body !== null ? body : {}) as Record<
      string,
      unknown
    >;
    const message =
      typeof details.error === "string" ? details.error : `The server answered ${response.status}`;
    throw new RequestError(response.status, message, details);
  }
  if (!isAnswer(body, ...wanted)) {
    throw new RequestError(0, "The server's answer was cut short, or none that can be used");
  }
  return body as T;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { "content-type": "application/json" },
  body: JSON.stringify(body),
});

/** Which projects the library shows, and in which order. */
export interface LibraryView {
  search: string;
  sort: string;
  deleted: boolean;
}

interface Range {
  offset: number;
  limit: number;
}

const libraryQuery = ({ search, sort, deleted, offset, limit }: LibraryView & Range) =>
  new URLSearchParams({
    search,
    sort,
    deleted: deleted ? "yes" : "no",
    offset: String(offset),
    limit: String(limit),
  }).toString();

/** A save as it is known here: its number and the stamp that tells it from others of that number. */
export interface Save {
  revision: number;
  stamp: string;
}

const { any, saved, stored, unchanged } = ANSWERS;

/** Where the rows of a project are had as they are kept. */
export const rawExport = (id: string) => `/api/projects/${id}/export?format=raw`;

/** The server's routes, typed. Every call throws a `RequestError`. */
export const api = {
  library: (view: LibraryView & Range) =>
    call<{ projects: ProjectCard[]; total: number; deleted: number }>(
      `/api/projects?${libraryQuery(view)}`,
      [ANSWERS.library],
    ),
  read: (id: string) => call<StoredProject>(`/api/projects/${id}`, [stored]),
  /** The project if it is at another save than this one, else null. */
  readIfOther: async (id: string, { revision, stamp }: Save): Promise<StoredProject | null> => {
    const found = await call<StoredProject | { unchanged: true }>(
      `/api/projects/${id}?other=${revision}&stamp=${encodeURIComponent(stamp)}`,
      [unchanged, stored],
    );
    return "unchanged" in found ? null : found;
  },
  /** An empty project, or one to begin with. Without a name it gets the next free one, from its own name. */
  create: (first: { name?: string; project?: Project } = {}) =>
    call<StoredProject>("/api/projects", [stored], json("POST", first)),
  change: (id: string, { revision, stamp }: Save, change: SentChange) =>
    call<Save>(`/api/projects/${id}`, [saved], json("PATCH", { revision, stamp, change })),
  /** The same from a page that goes away: sent even when it is gone, where it is small enough. */
  changeLast: (id: string, { revision, stamp }: Save, change: SentChange) => {
    const init = json("PATCH", { revision, stamp, change });
    const keepalive = String(init.body).length < MAX_KEPT_ALIVE;
    return call<Save>(`/api/projects/${id}`, [saved], { ...init, keepalive });
  },
  duplicate: (id: string) =>
    call<StoredProject>(`/api/projects/${id}/duplicate`, [stored], { method: "POST" }),
  remove: (id: string) => call<unknown>(`/api/projects/${id}`, [any], { method: "DELETE" }),
  restore: (id: string) => call<unknown>(`/api/projects/${id}/restore`, [any], { method: "POST" }),
  user: () => call<{ grids: UserGrids; presets: Preset[] }>("/api/user", [ANSWERS.user]),
  setGrids: (grids: UserGrids) =>
    call<UserGrids>("/api/user/grids", [ANSWERS.grids], json("PUT", grids)),
  addPreset: (preset: Omit<Preset, "id">) =>
    call<Preset>("/api/user/presets", [ANSWERS.preset], json("POST", preset)),
  removePreset: (id: string) =>
    call<unknown>(`/api/user/presets/${id}`, [any], { method: "DELETE" }),
  addSample: (name: string, bytes: ArrayBuffer) =>
    call<SampleRef>(
      `/api/samples?name=${encodeURIComponent(name)}`,
      [ANSWERS.sample],
      { method: "POST", body: bytes },
      PATIENCE_FILE_MS,
    ),
  import: (file: File) =>
    call<StoredProject & { notKept: string[] }>(
      `/api/import?name=${encodeURIComponent(file.name)}`,
      [stored],
      { method: "POST", body: file },
      PATIENCE_FILE_MS,
    ),
};
