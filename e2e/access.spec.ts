import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { chooseExport, expect, exported, openCopy, projectOf, test } from "./fixtures";

/** `covered`: what a list that is open for the moment lies over. */
async function check(page: Page, covered: string[] = []): Promise<void> {
  const builder = covered.reduce((b, part) => b.exclude(part), new AxeBuilder({ page }));
  const { violations } = await builder
    .withTags(["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"])
    .analyze();
  const serious = violations.filter((v) => v.impact === "serious" || v.impact === "critical");
  expect(
    serious.map(
      (v) =>
        `${v.id}: ${v.nodes
          .map((n) => n.html)
          .slice(0, 3)
          .join(" | ")}`,
    ),
  ).toEqual([]);
}

for (const theme of ["overcast", "slate"] as const) {
  test.describe(`in the ${theme} theme`, () => {
    test.beforeEach(async ({ page }) => {
      await page.addInitScript(
        (t) => localStorage.setItem("hailstep-settings", JSON.stringify({ theme: t })),
        theme,
      );
    });

    test("the library has no serious barrier", async ({ page }) => {
      await page.goto("/");
      await expect(page.locator("html")).toHaveAttribute("data-theme", theme);
      await expect(page.getByRole("heading", { name: "Slack Water", exact: true })).toBeVisible();
      await check(page);
    });

    test("a new project, settings, all keys and help have no serious barrier", async ({ page }) => {
      test.setTimeout(180_000);
      await page.goto("/");
      await page.getByRole("button", { name: "New project" }).click();
      await page.getByRole("radio", { name: "A beat", exact: true }).click();
      await check(page);
      for (const path of ["/settings", "/keys"]) {
        await page.goto(path);
        await expect(page.getByText("Play or stop")).toBeVisible();
        await check(page);
      }
      await openCopy(page, "Slack Water");
      await page.keyboard.press("?");
      await expect(page.getByRole("dialog")).toBeVisible();
      await check(page);
    });

    test("steps without a hit are seen against the sheet: 3 to 1", async ({ page }) => {
      await page.goto("/");
      // Relative luminance and contrast as WCAG 2.2 defines them.
      const ratios = await page.evaluate(() => {
        const style = getComputedStyle(document.documentElement);
        const luminance = (name: string) => {
          const hex = style.getPropertyValue(name).trim();
          const [r, g, b] = [1, 3, 5].map((at) => {
            const c = parseInt(hex.slice(at, at + 2), 16) / 255;
            return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
          });
          return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
        };
        return ["--sheet", "--sheet-beat"].map((ground) => {
          const [light, dark] = [luminance(ground), luminance("--sheet-dimple")].sort(
            (a, b) => b - a,
          );
          return (light! + 0.05) / (dark! + 0.05);
        });
      });
      for (const ratio of ratios) expect(ratio).toBeGreaterThanOrEqual(3);
    });

    test("the dialogs of export and import have no serious barrier, in any format", async ({
      page,
    }) => {
      test.setTimeout(180_000);
      await openCopy(page, "Slack Water");
      for (const format of ["WAV", "MIDI", "Score", "Project The", "Sheet"]) {
        await chooseExport(page, format);
        await check(page);
      }
      const project = await projectOf(page);
      const { bytes } = await exported(page, "MIDI", "Pattern");
      await page
        .getByLabel("File to import")
        .setInputFiles({ name: "tide.mid", mimeType: "audio/midi", buffer: Buffer.from(bytes) });
      await expect(page.getByRole("dialog", { name: /^Import/ })).toBeVisible();
      await check(page);
      await page.keyboard.press("Escape");
      expect(await projectOf(page)).toEqual(project);
    });

    test("the sheet has no serious barrier, on any page of the bench", async ({ page }) => {
      test.setTimeout(300_000);
      await openCopy(page, "Slack Water");
      await check(page);
      await page.getByRole("button", { name: /^Roll/ }).click();
      await page.getByTestId("sheet").focus();
      await page.keyboard.press("n");
      await check(page);
      await page.getByRole("button", { name: "Reed bass", exact: true }).click();
      for (const tab of ["Generate", "Sound", "Measure"]) {
        await page.getByRole("tab", { name: tab }).click();
        if (tab === "Generate") {
          await page.getByRole("button", { name: "Generate", exact: true }).click();
          await expect(page.getByRole("button", { name: /^Idea 12,/ })).toBeVisible();
        }
        if (tab === "Measure") await expect(page.locator(".apexcharts-svg")).toBeVisible();
        await check(page);
      }
      await page.getByRole("button", { name: "Close the ideas" }).click();

      // What belongs to lines: step entry, a chord, the scales, a transform at once, an arpeggio.
      await page.keyboard.press("i");
      await expect(page.getByRole("region", { name: "Step entry" })).toBeVisible();
      await page.getByRole("button", { name: "Chord Dm7" }).click();
      await check(page);
      await page.keyboard.press("Escape");
      await page.getByTestId("sheet").focus();
      await page.keyboard.press("i");
      await page.getByRole("button", { name: /^Scale of the key/ }).click();
      await check(page);
      await page.keyboard.press("Escape");
      await page.getByRole("tab", { name: "Transform" }).click();
      await page.getByRole("button", { name: /^Arpeggiate/ }).click();
      const arp = page.getByTestId("step-arpeggiate");
      await arp.getByRole("button", { name: /^Presets/ }).click();
      await arp.getByRole("button", { name: "One long, three quick" }).click();
      await arp.getByRole("button", { name: /more values/ }).click();
      await page.getByRole("radio", { name: "Apply now" }).click();
      await page.getByRole("button", { name: /^Strum/ }).click();
      await check(page);

      await page.getByRole("button", { name: "Kick: drag to move" }).click();
      await check(page);
      await page.keyboard.press("Escape");
      await page.getByRole("button", { name: "Kick", exact: true }).click();
      await page.keyboard.press("p");
      await page.getByRole("combobox", { name: "Filter" }).selectOption("lowpass");
      await check(page);
      await page.keyboard.press("Escape");
      await page.getByRole("button", { name: "History" }).click();
      await check(page, ["[aria-label='Chord line']"]);
      await page.keyboard.press("Escape");
      await page.getByRole("button", { name: "Grid of Kick" }).click();
      await check(page);
      await page.keyboard.press("Escape");
      await page.keyboard.press("Control+k");
      await expect(page.getByPlaceholder("Find an action")).toBeVisible();
      await check(page);
    });

    test("the mixer and the shaping of sounds and kits have no serious barrier", async ({
      page,
    }) => {
      test.setTimeout(120_000);
      await openCopy(page, "Lantern Row");
      await page.getByTestId("sheet").focus();
      await page.keyboard.press("Alt+m");
      await page.getByRole("tab", { name: "Sound" }).click();
      await page.getByRole("button", { name: "Levels of the lanes of Regatta kit" }).click();
      await page.getByRole("button", { name: "Try all kits" }).click();
      await page.getByRole("button", { name: /^Your kits/ }).click();
      await check(page);
      await page.getByRole("slider", { name: "Level of Harbour mist", exact: true }).focus();
      await page.getByRole("button", { name: /^Presets/ }).click();
      await check(page);
    });

    test("the song, the list of patterns and variations have no serious barrier", async ({
      page,
    }) => {
      test.setTimeout(120_000);
      await openCopy(page, "Lantern Row");
      await check(page);
      await page.getByTestId("sheet").focus();
      await page.keyboard.press("Alt+s");
      await page.getByRole("option", { name: /^Section 2/ }).click();
      await page.getByTestId("sheet").focus();
      for (const key of ["Shift+C", "Alt+c", "Alt+v", "Alt+w"]) await page.keyboard.press(key);
      await expect(page.getByRole("region", { name: "Ideas" })).toBeVisible();
      await check(page);
      await page.getByRole("button", { name: "Close the ideas" }).click();
      await page.keyboard.press("Alt+y");
      await expect(page.getByRole("dialog", { name: "Patterns" })).toBeVisible();
      await check(page, ["main", "header"]);
    });

    test("playing in has no serious barrier, however the keys lie", async ({ page }) => {
      test.setTimeout(300_000);
      await openCopy(page, "Slack Water");
      await page.getByRole("button", { name: "Reed bass", exact: true }).click();
      await page.keyboard.press(";");
      await page.keyboard.press("a");
      await expect(page.getByRole("button", { name: "Keep last loop" })).toBeVisible();
      for (let i = 0; i < 4; i++) {
        await check(page);
        await page.keyboard.press("]");
      }
      await page.getByTestId("played-strip").focus();
      await page.keyboard.press("Home");
      await check(page);
      await page.getByRole("button", { name: "Recording and metronome" }).click();
      await check(page);
      await page.keyboard.press("Escape");
      await page.getByRole("button", { name: "MIDI devices" }).click();
      await page.getByRole("button", { name: "Open the simulated controller" }).click();
      await page.getByRole("button", { name: "Look for MIDI devices" }).click();
      await check(page);
      await page.keyboard.press("Escape");
      await page.getByRole("button", { name: "Tidy up" }).click();
      await page
        .getByRole("dialog", { name: "Tidy up" })
        .getByRole("button", { name: "Quantize", exact: true })
        .click();
      await check(page);
      await page.keyboard.press("Escape");
      await page.getByRole("radio", { name: /^Enter steps/ }).click();
      await check(page);
    });
  });
}

test("everything fits at 1280 by 800, and at 1024 nothing is lost", async ({ page }) => {
  await openCopy(page, "Slack Water");
  const overflow = () =>
    page.evaluate(
      () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
    );
  expect(await overflow()).toBe(0);
  await page.setViewportSize({ width: 1024, height: 768 });
  expect(await overflow()).toBe(0);
  for (const name of ["Play", "Export", "Find an action"]) {
    const box = await page.getByRole("button", { name, exact: true }).boundingBox();
    expect(box!.x + box!.width).toBeLessThanOrEqual(1024);
  }
});
