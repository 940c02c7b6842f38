import { existsSync, mkdirSync } from "node:fs";
import path from "node:path";
import Sqlite from "better-sqlite3";
import { drizzle, type BetterSQLite3Database } from "drizzle-orm/better-sqlite3";
import { migrate } from "drizzle-orm/better-sqlite3/migrator";
import * as schema from "./schema";

export type Database = BetterSQLite3Database<typeof schema> & { $client: Sqlite.Database };

/**
 * Opens (and where needed makes) a database file and brings it to the newest schema.
 * `:memory:` gives one that is gone when closed.
 */
export function openDatabase(file: string): Database {
  if (file !== ":memory:") mkdirSync(path.dirname(path.resolve(file)), { recursive: true });
  const client = new Sqlite(file);
  client.pragma("journal_mode = WAL");
  // With WAL, NORMAL keeps the file whole after a crash of the process; FULL also each last commit
  // after a loss of power, which an edit that was called saved deserves.
  client.pragma("synchronous = FULL");
  client.pragma("foreign_keys = ON");
  client.pragma("busy_timeout = 5000");
  const database = drizzle({ client, schema });
  migrate(database, { migrationsFolder: migrationsFolder() });
  return database;
}

function migrationsFolder(): string {
  const folder = path.join(process.cwd(), "drizzle");
  if (!existsSync(folder))
    throw new Error(`No migrations in ${folder}: start from the project folder`);
  return folder;
}
