import path from "node:path";
import { eq } from "drizzle-orm";
import { closeDatabase, openDatabase, type Database } from "./database";
import { demoProjects } from "./demo";
import { Heavy } from "./heavy/pool";
import { ProjectService } from "./projects";
import { facts } from "./schema";
import { UserService } from "./user";

// The bundler gives routes, pages and the start-up hook modules of their own; the open database is
// shared between them, while each has its own service (and with it its own error classes).
const shared = globalThis as { hailstepDatabase?: Database; hailstepHeavy?: Heavy };
let projects: ProjectService | null = null;
let userOfThis: UserService | null = null;

/** The folder in which everything is kept. */
export const dataFolder = () => process.env.HAILSTEP_DATA ?? "data";

/** The one file of the database. */
export const databaseFile = () => path.join(dataFolder(), "hailstep.db");

/** The open database of this server: migrated and, when new, given the demo projects. */
export function database(): Database {
  if (!shared.hailstepDatabase) {
    const opened = openDatabase(databaseFile(), (fresh) => seed(fresh, new ProjectService(fresh)));
    shared.hailstepDatabase = opened;
    // However the process ends but by a kill: then the one file holds everything.
    process.once("exit", () => closeDatabase(opened));
  }
  return shared.hailstepDatabase;
}

/** The service of this server's database. */
export function service(): ProjectService {
  return (projects ??= new ProjectService(database()));
}

/** Threads for what would keep the others waiting, with connections of their own to the same database. */
export function heavy(): Heavy {
  database();
  return (shared.hailstepHeavy ??= new Heavy(databaseFile()));
}

/** What belongs to the user of this server. */
export function user(): UserService {
  return (userOfThis ??= new UserService(database()));
}

/** Puts the demo projects in, once in the life of a database, all or none: deleting them is final. */
export function seed(into: Database, projects: ProjectService): void {
  into.transaction(() => {
    const known = into.select().from(facts).where(eq(facts.name, "demo")).get();
    if (known) return;
    for (const project of demoProjects()) projects.create(project);
    into.insert(facts).values({ name: "demo", value: "1" }).run();
  });
}
