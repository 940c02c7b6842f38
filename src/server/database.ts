import {
  existsSync,
  linkSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
} from "node:fs";
import path from "node:path";
import Sqlite from "better-sqlite3";
import { drizzle, type BetterSQLite3Database } from "drizzle-orm/better-sqlite3";
import { migrate } from "drizzle-orm/better-sqlite3/migrator";
import { StartError, startProblem } from "./errors";
import * as schema from "./schema";

export type Database = BetterSQLite3Database<typeof schema> & { $client: Sqlite.Database };

/** How long a statement waits for another program that holds the file, in ms: no request waits for long. */
const PATIENCE_MS = 250;
/** A lock met later is waited for in the thread of all requests hardly at all, in others for long. */
const MOMENT_MS = 15;
const LONG_MS = 5000;

/**
 * Opens (and where needed makes) a database file and brings it to the newest schema.
 * `:memory:` gives one that is gone when closed. A new file is made beside its place and put there when
 * `fill` is done with it, so that one that was cut off while it was made is never taken for one.
 * Throws a `StartError` that says what is wrong with a file that cannot be used, which is left as it is.
 */
export function openDatabase(file: string, fill?: (database: Database) => void): Database {
  if (file === ":memory:") return prepared(new Sqlite(file), fill);
  return attempt(file, () => {
    makeFolder(path.dirname(path.resolve(file)));
    if (!existsSync(file)) make(file, fill);
    else if (statSync(file).size === 0) throw new StartError(EMPTY(file));
    const database = prepared(connect(file), fill);
    database.$client.pragma(`busy_timeout = ${MOMENT_MS}`);
    return database;
  });
}

/** One after the other: what makes all at once tries for ever where a system has no folders to be made. */
function makeFolder(folder: string): void {
  if (existsSync(folder)) return;
  makeFolder(path.dirname(folder));
  try {
    mkdirSync(folder);
  } catch (error) {
    // Another server may have made it meanwhile.
    if (!existsSync(folder)) throw error;
  }
}

/** Opens a database that another thread has prepared. */
export function openPrepared(file: string): Database {
  return drizzle({ client: connect(file, LONG_MS), schema });
}

/** Writes all that lies beside the file into it and closes it: then the one file holds everything. */
export function closeDatabase({ $client }: Database): void {
  if (!$client.open) return;
  $client.pragma("wal_checkpoint(TRUNCATE)");
  $client.close();
}

const EMPTY = (file: string) =>
  `The database ${file} is empty. It was cut off or overwritten: Hailstep never leaves it so. Nothing was changed. ` +
  "Put back one of the daily copies (npm run restore), or move the file away to begin anew.";

function attempt<T>(file: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof StartError) throw error;
    const problem = startProblem(error, file);
    throw problem ? new StartError(problem) : error;
  }
}

function connect(file: string, timeout = PATIENCE_MS): Sqlite.Database {
  const client = new Sqlite(file, { timeout });
  client.pragma("journal_mode = WAL");
  // With WAL, NORMAL keeps the file whole after a crash of the process; FULL also each last commit
  // after a loss of power, which an edit that was called saved deserves.
  client.pragma("synchronous = FULL");
  client.pragma("foreign_keys = ON");
  return client;
}

function prepared(client: Sqlite.Database, fill?: (database: Database) => void) {
  const database = drizzle({ client, schema });
  refuseNewer(client);
  migrate(database, { migrationsFolder: migrationsFolder() });
  fill?.(database);
  return database;
}

function make(file: string, fill?: (database: Database) => void): void {
  const beside = `${file}.${process.pid}.new`;
  for (const end of ["", "-wal", "-shm"]) rmSync(beside + end, { force: true });
  closeDatabase(prepared(connect(beside), fill));
  try {
    linkSync(beside, file);
    rmSync(beside);
  } catch {
    // Another server may have made one meanwhile: then that one stands. Some disks know no links.
    if (existsSync(file)) rmSync(beside, { force: true });
    else renameSync(beside, file);
  }
}

/** A database that a newer version has changed is not for this one to write into. */
function refuseNewer(client: Sqlite.Database): void {
  const known = JSON.parse(
    readFileSync(path.join(migrationsFolder(), "meta", "_journal.json"), "utf8"),
  ) as { entries: { when: number }[] };
  const newest = Math.max(...known.entries.map((entry) => entry.when));
  const table = client
    .prepare("select 1 from sqlite_master where name = '__drizzle_migrations'")
    .get();
  if (!table) return;
  const row = client.prepare("select max(created_at) as at from __drizzle_migrations").get();
  const at = Number((row as { at: number | null }).at ?? 0);
  if (at <= newest) return;
  throw new StartError(
    `The database ${client.name} was made by a newer version of Hailstep. This one would not understand all of it, ` +
      "so nothing was opened or changed. Start the newer version, or set HAILSTEP_DATA to another folder.",
  );
}

function migrationsFolder(): string {
  const folder = path.join(process.cwd(), "drizzle");
  if (!existsSync(folder))
    throw new StartError(`No migrations in ${folder}: start from the project folder`);
  return folder;
}
