/** An error that a client is told: the status, what is wrong, and details where there are any. */
export class ApiError extends Error {
  /**
   * By what it is, not by which module made it: the bundler gives pages and routes modules of their own,
   * and they share the threads that throw these.
   */
  static override [Symbol.hasInstance](value: unknown): boolean {
    return value instanceof Error && value.name === "ApiError" && "status" in value;
  }

  constructor(
    readonly status: number,
    message: string,
    readonly details: Record<string, unknown> = {},
  ) {
    super(message);
    this.name = "ApiError";
  }
}

/** Why the program cannot start, in a sentence for the person who started it. */
export class StartError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "StartError";
  }
}

const codeOf = (error: unknown): string => {
  const { code, cause } = (error ?? {}) as { code?: unknown; cause?: { code?: unknown } };
  return String(code ?? cause?.code ?? "");
};

/** Codes of what can be wrong with a database and its disk. */
const DAMAGED = /^SQLITE_(NOTADB|CORRUPT)/;
const BUSY = /^SQLITE_(BUSY|LOCKED)/;
const FULL = /^SQLITE_FULL|^ENOSPC|^EDQUOT/;
const UNWRITABLE = /^SQLITE_(READONLY|CANTOPEN|PERM|IOERR)|^EACCES|^EROFS/;
/** And with a place where one is to be made. */
const NO_PLACE = /^EPERM|^ENOTDIR|^EEXIST|^ENOENT/;

/** What is wrong with the place of the data and what to do, where a start failed for it; else null. */
export function startProblem(error: unknown, file: string): string | null {
  const code = codeOf(error);
  if (DAMAGED.test(code)) {
    return (
      `The database ${file} is damaged, or no database. Nothing was changed. ` +
      "Put back one of the daily copies (npm run restore), or move the file away to begin anew."
    );
  }
  if (BUSY.test(code)) {
    return `The database ${file} is in use by another program, which keeps it locked. Nothing was changed. Close that program and start again.`;
  }
  if (FULL.test(code)) {
    return `There is no room left on the disk of ${file}. What is in it is safe. Make room and start again.`;
  }
  if (UNWRITABLE.test(code) || NO_PLACE.test(code)) {
    return `The data cannot be kept in ${file}: the folder or file cannot be written (${code}). Nothing was changed. Allow writing there, or set HAILSTEP_DATA to another folder.`;
  }
  return null;
}

/** Whether the database is being written by another thread or program, and may be free in a moment. */
export const isBusy = (error: unknown): boolean => BUSY.test(codeOf(error));

/** The answer to a request that the disk or the database failed, else null. */
export function storageError(error: unknown): ApiError | null {
  const code = codeOf(error);
  const safe = "Nothing of this request was written; what was saved before is safe.";
  if (isBusy(error)) {
    return new ApiError(
      503,
      `The database is in use by another program. ${safe} It is tried again.`,
    );
  }
  if (FULL.test(code)) {
    return new ApiError(507, `There is no room left on the disk. ${safe} Make room there.`);
  }
  if (UNWRITABLE.test(code)) {
    return new ApiError(
      503,
      `The database cannot be written (${code}). ${safe} Allow writing there.`,
    );
  }
  if (DAMAGED.test(code)) {
    return new ApiError(
      503,
      "The database is damaged. Stop the server and put back a daily copy: npm run restore. What this page shows is kept in it.",
    );
  }
  return null;
}
