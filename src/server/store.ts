import path from "node:path";
import { eq } from "drizzle-orm";
import { openDatabase, type Database } from "./database";
import { demoProjects } from "./demo";
import { ProjectService } from "./projects";
import { facts } from "./schema";
import { UserService } from "./user";

// The bundler gives routes, pages and the start-up hook modules of their own; the open database is
// shared between them, while each has its own service (and with it its own error classes).
const shared = globalThis as { hailstepDatabase?: Database };
let projects: ProjectService | null = null;
let userOfThis: UserService | null = null;

/** The service of this server's database; opened, migrated and, when new, given the demo projects. */
export function service(): ProjectService {
  if (!projects) {
    const file = path.join(process.env.HAILSTEP_DATA ?? "data", "hailstep.db");
    shared.hailstepDatabase ??= openDatabase(file);
    projects = new ProjectService(shared.hailstepDatabase);
    seed(shared.hailstepDatabase, projects);
  }
  return projects;
}

/** What belongs to the user of this server. */
export function user(): UserService {
  service();
  return (userOfThis ??= new UserService(shared.hailstepDatabase!));
}

/** Puts the demo projects in, once in the life of a database: deleting them is final. */
export function seed(database: Database, projects: ProjectService): void {
  const known = database.select().from(facts).where(eq(facts.name, "demo")).get();
  if (known) return;
  for (const project of demoProjects()) projects.create(project);
  database.insert(facts).values({ name: "demo", value: "1" }).run();
}
