import { ApiError } from "./errors";
import { isGivenUp } from "./heavy/pool";
import { libraryPage, staleSummaries, type LibraryPage, type LibraryQuery } from "./library";
import { database, heavy, service } from "./store";

/** After a save this long passes before its picture is made: edits come one after another. */
const PAUSE_MS = 1500;

const waiting = new Map<string, ReturnType<typeof setTimeout>>();
const running = new Map<string, Promise<void>>();

/** Brings what the library shows of a project up to date once its edits pause. */
export function summariseSoon(id: string): void {
  clearTimeout(waiting.get(id));
  const timer = setTimeout(() => {
    waiting.delete(id);
    void summarise(id);
  }, PAUSE_MS);
  timer.unref();
  waiting.set(id, timer);
}

/** Brings it up to date now, in a thread: a project that harms the thread is kept as one that cannot be read. */
export function summarise(id: string): Promise<void> {
  const known = running.get(id);
  if (known) return known;
  const work = heavy()
    .run("summarise", id)
    .catch((error: unknown) => {
      if (!(error instanceof ApiError) || error.status === 404) return;
      if (error.status === 413 || error.status === 422 || isGivenUp(error)) {
        service().cannotRead(id, error.message);
      }
    })
    .catch((error: unknown) => console.error("No picture for the library:", error))
    .finally(() => running.delete(id));
  running.set(id, work);
  return work;
}

/** A page of the library; pictures that are out of date are made for the next time. */
export function pageWithSummaries(query: Partial<LibraryQuery> = {}): LibraryPage {
  const page = libraryPage(database(), query);
  for (const id of staleSummaries(
    database(),
    page.cards.map((card) => card.id),
  )) {
    if (!waiting.has(id)) void summarise(id);
  }
  return page;
}
