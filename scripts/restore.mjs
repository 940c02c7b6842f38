// npm run restore: lists the daily copies; npm run restore -- 2026-11-25 puts that one back.
import { existsSync, readdirSync, renameSync, rmSync, statSync } from "node:fs";
import { copyFile } from "node:fs/promises";
import path from "node:path";
import Sqlite from "better-sqlite3";

const data = process.env.HAILSTEP_DATA ?? "data";
const file = path.join(data, "hailstep.db");
const folder = path.join(data, "copies");
const names = existsSync(folder)
  ? readdirSync(folder)
      .filter((name) => /^hailstep-\d{4}-\d{2}-\d{2}\.db$/.test(name))
      .sort()
  : [];
const dayOf = (name) => name.slice("hailstep-".length, -".db".length);

function stop(message) {
  console.error(message);
  process.exit(1);
}

/** How many projects a copy holds; stops where it is damaged. */
function projectsIn(name) {
  const copy = new Sqlite(path.join(folder, name), { readonly: true });
  try {
    if (copy.pragma("integrity_check", { simple: true }) !== "ok") throw new Error("damaged");
    return copy.prepare("select count(*) as n from projects where deleted_at is null").get().n;
  } finally {
    copy.close();
  }
}

const [wanted] = process.argv.slice(2);
if (names.length === 0) stop(`There are no daily copies in ${folder}.`);
if (!wanted) {
  console.log("Daily copies:");
  for (const name of names) {
    let what = "damaged";
    try {
      what = `${projectsIn(name)} projects`;
    } catch {
      // Said in the list.
    }
    const mb = (statSync(path.join(folder, name)).size / 1024 / 1024).toFixed(1);
    console.log(`  ${dayOf(name)}   ${what}, ${mb} MB`);
  }
  console.log("\nPut one back: npm run restore -- " + dayOf(names.at(-1)));
  process.exit(0);
}
const name = names.find((one) => dayOf(one) === wanted);
if (!name) stop(`There is no copy of ${wanted}. There are: ${names.map(dayOf).join(", ")}.`);
try {
  projectsIn(name);
} catch {
  stop(`The copy of ${wanted} is damaged. Nothing was changed.`);
}

// A running server would go on writing into the file that is moved away.
const port = Number(process.env.PORT ?? 4747);
const running = await fetch(`http://127.0.0.1:${port}/api/user`, {
  signal: AbortSignal.timeout(1000),
}).then(
  () => true,
  () => false,
);
if (running) stop(`Hailstep is running at port ${port}. Stop it first. Nothing was changed.`);

const beside = `${file}.restored`;
await copyFile(path.join(folder, name), beside);
const mark = new Date().toISOString().slice(0, 19).replaceAll(":", "");
const kept = `${file}.before-${mark}`;
for (const end of ["", "-wal", "-shm"]) {
  if (existsSync(file + end)) renameSync(file + end, kept + end);
}
renameSync(beside, file);
rmSync(`${beside}-wal`, { force: true });
console.log(`The copy of ${wanted} is back. What was there before is kept as ${kept}.`);
