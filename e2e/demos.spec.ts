import { patternTicks } from "@/core/score";
import { loudness } from "@/core/analysis";
import { demoProjects } from "@/server/demo";
import { truePeak } from "@/audio/listen.test-helper";
import { expect, openNew, test } from "./fixtures";
import { renderStretch } from "./render";

test("every demo is as loud as music is delivered, and nothing of it clips", async ({ page }) => {
  test.setTimeout(240_000);
  await openNew(page);
  const told: string[] = [];
  for (const project of demoProjects()) {
    for (const pattern of project.patterns) {
      const ticks = patternTicks(project, pattern);
      const { left, right, rate } = await renderStretch(page, project, 0, 2 * ticks, {
        pattern: pattern.id,
        loop: true,
        tail: 0,
      });
      const lufs = loudness([left, right], rate);
      const peak = Math.max(truePeak(left), truePeak(right));
      told.push(
        `${project.name} ${pattern.name}: ${lufs.toFixed(1)} LUFS, ${peak.toFixed(1)} dBTP`,
      );
      // ITU-R BS.1770-4; the first pattern is the one a demo opens with.
      if (pattern === project.patterns[0]) {
        expect.soft(lufs, told.at(-1)).toBeGreaterThan(-16);
        expect.soft(lufs, told.at(-1)).toBeLessThan(-12);
      }
      expect.soft(peak, told.at(-1)).toBeLessThan(-1);
    }
  }
  expect(told.length).toBeGreaterThanOrEqual(10);
});
