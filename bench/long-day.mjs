// A day of work at speed: what the page holds at its end, what many undo steps hold, and a project that
// is as large as they come.
import { line, note, openProject, projectWith, withBrowser } from "./page.mjs";

/** Rounds of work; the first of them are the ten minutes that the rest is held against. */
const ROUNDS = Number(process.env.ROUNDS ?? 60);
const FIRST = Number(process.env.FIRST ?? Math.max(3, Math.round(ROUNDS / 12)));
const STEPS = Number(process.env.STEPS ?? 5000);
const mb = (bytes) => `${(bytes / 1e6).toFixed(1)} MB`;

/** What a page holds: heap after a collection, elements, listeners, audio nodes, the browser's own store. */
async function holdings(page, cdp, nodes) {
  await page.waitForTimeout(600);
  for (let i = 0; i < 3; i++) await cdp.send("HeapProfiler.collectGarbage");
  await page.waitForTimeout(200);
  const { metrics } = await cdp.send("Performance.getMetrics");
  const of = (name) => metrics.find((metric) => metric.name === name).value;
  const store = await page.evaluate(async () => (await navigator.storage.estimate()).usage);
  return {
    heap: of("JSHeapUsedSize"),
    elements: of("Nodes"),
    listeners: of("JSEventListeners"),
    "audio nodes": nodes.size,
    "stored in the browser": store,
  };
}

async function watched(page) {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send("Performance.enable");
  await cdp.send("WebAudio.enable");
  const nodes = new Set();
  cdp.on("WebAudio.audioNodeCreated", ({ node }) => nodes.add(node.nodeId));
  cdp.on("WebAudio.audioNodeWillBeDestroyed", ({ nodeId }) => nodes.delete(nodeId));
  return { cdp, nodes };
}

/** Some minutes of work: hits put and taken, undo, a card, ideas, other kits, playing, a note of a line. */
async function round(page, n) {
  const sheet = await page.getByTestId("sheet").boundingBox();
  const lane = async (name) => {
    const box = await page.getByRole("button", { name, exact: true }).boundingBox();
    return box.y + box.height / 2;
  };
  await page.getByRole("button", { name: "Play", exact: true }).click();
  for (const name of ["Kick", "Closed hat", "Snare"]) {
    const y = await lane(name);
    for (let i = 0; i < 8; i++) {
      await page.mouse.click(sheet.x + 20 + ((i * 97 + n * 31) % (sheet.width - 60)), y);
    }
  }
  await page.getByRole("button", { name: "Kick", exact: true }).click();
  await page.getByTestId("sheet").focus();
  for (let i = 0; i < 6; i++) await page.keyboard.press("Control+z");
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+Shift+z");
  await page.getByRole("tab", { name: "Transform" }).click();
  await page
    .getByRole("button", { name: /^Humanize/ })
    .first()
    .click();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Control+z");
  await page.getByRole("tab", { name: "Generate" }).click();
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await page.getByRole("button", { name: /^Idea 3,/ }).click();
  await page.getByRole("button", { name: "Close the ideas" }).click();
  await page.getByRole("tab", { name: "Sound" }).click();
  await page.getByRole("button", { name: "Next kit" }).click();
  await page.getByTestId("sheet").focus();
  await page.getByRole("button", { name: "Stop", exact: true }).click();
}

await withBrowser(4767, async (context) => {
  const start = await context.newPage();
  const day = await projectWith(start, "Day", 4, () =>
    Array.from({ length: 64 }, (_, i) => note(`n${i}`, i * 240, 42, 120)),
  );
  const few = await projectWith(start, "Few", 4, () =>
    Array.from({ length: 30 }, (_, i) => note(`n${i}`, i * 480, 36, 120)),
  );
  const lots = await projectWith(start, "Lots", 64, () =>
    Array.from({ length: 10_000 }, (_, i) => note(`n${i}`, i * 24, 36 + (i % 12), 20)),
  );
  await start.close();

  const page = await openProject(context, day);
  const { cdp, nodes } = await watched(page);
  let early = null;
  for (let n = 0; n < ROUNDS; n++) {
    await round(page, n);
    if (n + 1 === FIRST) early = await holdings(page, cdp, nodes);
  }
  const late = await holdings(page, cdp, nodes);
  for (const what of Object.keys(late)) {
    const [a, b] = [early[what], late[what]];
    const told = what === "heap" || what.startsWith("stored") ? mb : String;
    line(
      `${what} after ${ROUNDS} rounds of work, against ${FIRST}`,
      (b / a).toFixed(2),
      `wanted below 1.2; ${told(b)} against ${told(a)}`,
    );
  }
  await page.close();

  // Undo: the n-th edit of a hit, against the project itself.
  for (const [name, id] of [
    ["30", few],
    ["10 000", lots],
  ]) {
    const many = await openProject(context, id);
    const seen = await watched(many);
    const before = await holdings(many, seen.cdp, seen.nodes);
    const box = await many.getByTestId("sheet").boundingBox();
    const crash = await many.getByRole("button", { name: "Crash", exact: true }).boundingBox();
    const y = crash.y + crash.height / 2;
    // A hit is put at the beginning and taken away again, each an edit of its own.
    const x = box.x + 14;
    for (let i = 0; i < STEPS; i++) {
      await many.mouse.click(x, y, { button: i % 2 ? "right" : "left" });
    }
    const after = await holdings(many, seen.cdp, seen.nodes);
    await many.getByRole("button", { name: "History" }).click();
    const told = await many.getByText(/edits?\. Click to go there/).textContent();
    line(
      `heap after ${STEPS} edits of a part of ${name} notes, against before`,
      (after.heap / before.heap).toFixed(2),
      `wanted below 50 MB more; ${mb(after.heap - before.heap)} more than ${mb(before.heap)}; ${told}`,
    );
    await many.close();
  }
});
