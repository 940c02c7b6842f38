import { keepCopies } from "./copies";
import { StartError } from "./errors";
import { reclaim } from "./reclaim";
import { database, dataFolder } from "./store";

const HOUR_MS = 60 * 60 * 1000;

/** Opens the database; ends the process at once, with a sentence, where that cannot be done. Then looks after it. */
export function start(): void {
  try {
    database();
  } catch (error) {
    console.error(error instanceof StartError ? `\n${error.message}\n` : error);
    process.exit(1);
  }
  const lookAfter = () => {
    try {
      reclaim(database(), Date.now());
    } catch (error) {
      console.error(
        "What was deleted long ago could not be cleared away:",
        (error as Error).message,
      );
    }
    keepCopies(database(), dataFolder(), new Date()).catch((error: unknown) =>
      console.error("The daily copy of the database could not be made:", (error as Error).message),
    );
  };
  lookAfter();
  setInterval(lookAfter, HOUR_MS).unref();
}
