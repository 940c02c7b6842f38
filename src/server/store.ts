import path from "node:path";
import { eq } from "drizzle-orm";
import { openDatabase, type Database } from "./database";
import { demoProjects } from "./demo";
import { ProjectService } from "./projects";
import { facts } from "./schema";

const holder = globalThis as { hailstepService?: ProjectService };

/** The service of this server's database; opened, migrated and, when new, given the demo projects. */
export function service(): ProjectService {
  if (!holder.hailstepService) {
    const file = path.join(process.env.HAILSTEP_DATA ?? "data", "hailstep.db");
    const database = openDatabase(file);
    holder.hailstepService = new ProjectService(database);
    seed(database, holder.hailstepService);
  }
  return holder.hailstepService;
}

/** Puts the demo projects in, once in the life of a database: deleting them is final. */
export function seed(database: Database, projects: ProjectService): void {
  const known = database.select().from(facts).where(eq(facts.name, "demo")).get();
  if (known) return;
  for (const project of demoProjects()) projects.create(project);
  database.insert(facts).values({ name: "demo", value: "1" }).run();
}
