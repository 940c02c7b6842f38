import type { Change, Preset, SampleRef, StoredProject, UserGrids } from "@/core";

/** What the server said no to, or that it did not answer (`status` 0). */
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
const PATIENCE_MS = 20_000;
/** What a browser still sends for a page that is gone (Fetch standard: 64 KiB in flight). */
const MOST_KEPT_ALIVE = 60_000;

async function call<T>(path: string, init: RequestInit = {}): Promise<T> {
  let response: Response;
  let body: Record<string, unknown>;
  try {
    const signal = AbortSignal.timeout(PATIENCE_MS);
    response = await fetch(path, { ...init, cache: "no-store", signal });
    body = (await response.json().catch((error: unknown) => {
      // No JSON is an answer still; one that was cut short is none.
      if (signal.aborted) throw error;
      return {};
    })) as Record<string, unknown>;
  } catch {
    throw new RequestError(0, "The server does not answer");
  }
  if (!response.ok) {
    const message =
      typeof body.error === "string" ? body.error : `The server answered ${response.status}`;
    throw new RequestError(response.status, message, body);
  }
  return body as T;
}

const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { "content-type": "application/json" },
  body: JSON.stringify(body),
});

/** The server's routes, typed. Every call throws a `RequestError`. */
export const api = {
  read: (id: string) => call<StoredProject>(`/api/projects/${id}`),
  /** The project if it is at another revision than this one, else null. */
  readIfOther: async (id: string, revision: number): Promise<StoredProject | null> => {
    const found = await call<StoredProject | { unchanged: true }>(
      `/api/projects/${id}?other=${revision}`,
    );
    return "unchanged" in found ? null : found;
  },
  create: (name: string) => call<StoredProject>("/api/projects", json("POST", { name })),
  change: (id: string, revision: number, change: Change) =>
    call<{ revision: number }>(`/api/projects/${id}`, json("PATCH", { revision, change })),
  /** The same from a page that goes away: sent even when it is gone, where it is small enough. */
  changeLast: (id: string, revision: number, change: Change) => {
    const init = json("PATCH", { revision, change });
    const keepalive = String(init.body).length < MOST_KEPT_ALIVE;
    return call<{ revision: number }>(`/api/projects/${id}`, { ...init, keepalive });
  },
  duplicate: (id: string) =>
    call<StoredProject>(`/api/projects/${id}/duplicate`, { method: "POST" }),
  remove: (id: string) => call<unknown>(`/api/projects/${id}`, { method: "DELETE" }),
  restore: (id: string) => call<unknown>(`/api/projects/${id}/restore`, { method: "POST" }),
  user: () => call<{ grids: UserGrids; presets: Preset[] }>("/api/user"),
  setGrids: (grids: UserGrids) => call<UserGrids>("/api/user/grids", json("PUT", grids)),
  addPreset: (preset: Omit<Preset, "id">) =>
    call<Preset>("/api/user/presets", json("POST", preset)),
  removePreset: (id: string) => call<unknown>(`/api/user/presets/${id}`, { method: "DELETE" }),
  addSample: (name: string, bytes: ArrayBuffer) =>
    call<SampleRef>(`/api/samples?name=${encodeURIComponent(name)}`, {
      method: "POST",
      body: bytes,
    }),
  import: (file: File) =>
    call<StoredProject & { notKept: string[] }>(
      `/api/import?name=${encodeURIComponent(file.name)}`,
      { method: "POST", body: file },
    ),
};
