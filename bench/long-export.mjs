// A song of half an hour as a WAV: how fast, and how much memory the browser takes for it at most.
import { readFileSync, readdirSync, statSync } from "node:fs";
import { line, withBrowser } from "./page.mjs";

const MINUTES = 30;

/** MB that pages hold just now, and the browser's own process, which keeps files that are made. */
function held() {
  const mb = { pages: 0, browser: 0 };
  for (const id of readdirSync("/proc").filter((name) => /^\d+$/.test(name))) {
    try {
      const called = readFileSync(`/proc/${id}/cmdline`, "utf8");
      const kind = called.includes("--type=renderer")
        ? "pages"
        : called.includes("chrom") && !called.includes("--type=")
          ? "browser"
          : null;
      if (!kind) continue;
      const [, resident, shared] = readFileSync(`/proc/${id}/statm`, "utf8").split(" ");
      mb[kind] += ((Number(resident) - Number(shared)) * 4096) / 1e6;
    } catch {
      // It ended meanwhile.
    }
  }
  return mb;
}

await withBrowser(4769, async (context) => {
  const page = await context.newPage();
  await page.goto("/");
  const made = await page.request.get("/api/projects");
  const demo = (await made.json()).projects.find(({ name }) => name === "Slack Water");
  await page.goto(`/p/${demo.id}`);
  await page.waitForFunction(() => window.hailstep !== undefined);
  const { tempo, metre, patterns } = await page.evaluate(() => window.hailstep.project());
  const round = ((patterns[0].bars * metre.beats * 4) / metre.unit) * (60 / tempo);
  const song = [{ id: "long", pattern: patterns[0].id, times: Math.ceil((MINUTES * 60) / round) }];
  const { name, key } = await page.evaluate(() => window.hailstep.project());
  const saved = await page.request.patch(`/api/projects/${demo.id}`, {
    data: { revision: 1, change: { head: { name, tempo, metre, key, song } } },
  });
  if (!saved.ok()) throw new Error(await saved.text());
  await page.reload();
  await page.waitForFunction(() => window.hailstep !== undefined);
  await page.waitForTimeout(2000);
  await page.keyboard.press("Control+e");
  const dialog = page.getByRole("dialog", { name: "Export" });
  await dialog.getByRole("radio", { name: /^WAV/ }).check({ force: true });
  await dialog.getByRole("radio", { name: "Song", exact: true }).click();
  const before = held();
  const most = { ...before };
  const watch = setInterval(() => {
    const now = held();
    for (const kind of ["pages", "browser"]) most[kind] = Math.max(most[kind], now[kind]);
  }, 250);
  const begin = performance.now();
  const [file] = await Promise.all([
    page.waitForEvent("download", { timeout: 3_600_000 }),
    dialog.getByRole("button", { name: "Export", exact: true }).click(),
  ]);
  const size = statSync(await file.path()).size;
  clearInterval(watch);
  const took = (performance.now() - begin) / 1000;
  line(
    `a song of ${MINUTES} minutes as a WAV, in times its length`,
    ((MINUTES * 60) / took).toFixed(1),
    `wanted 10 or more; ${(size / 1e6).toFixed(0)} MB in ${took.toFixed(0)} s`,
  );
  for (const kind of ["pages", "browser"])
    line(
      `memory taken for it by the ${kind === "pages" ? "page" : "browser's keeping of files"}, in times the file`,
      (((most[kind] - before[kind]) * 1e6) / size).toFixed(2),
      `from ${before[kind].toFixed(0)} to ${most[kind].toFixed(0)} MB`,
    );
});
