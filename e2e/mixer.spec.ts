import { readProjectJson } from "@/core/formats";
import {
  exported,
  expect,
  expectOnTime,
  openNew,
  play,
  projectOf,
  saved,
  stop,
  test,
  waitSent,
} from "./fixtures";

test("the mixer is opened by key and from a track's menu, and closed by escape", async ({
  page,
}) => {
  await openNew(page);
  const mixer = page.getByRole("region", { name: "Mixer", exact: true });
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+m");
  await expect(mixer).toBeVisible();
  await mixer.getByRole("slider", { name: "Level of Reed bass", exact: true }).focus();
  await page.keyboard.press("Escape");
  await expect(mixer).toHaveCount(0);
  await expect(page.getByTestId("sheet")).toBeFocused();
  await page.getByRole("button", { name: "Reed bass: drag to move, click for more" }).click();
  await page.getByRole("button", { name: /^Mix( |$)/ }).click();
  await expect(mixer).toBeVisible();
  // After a click on a button of it, space still plays.
  await page.getByRole("button", { name: "Reset loudness" }).click();
  await page.keyboard.press("Space");
  await expect
    .poll(async () => (await page.evaluate(() => window.hailstep!.position())) !== null)
    .toBe(true);
  await stop(page);
});

test("level, pan, sends, mute and lanes are edits by pointer and key, undone, saved and kept over a reload", async ({
  page,
}) => {
  await openNew(page);
  await page.keyboard.press("Alt+m");
  const mixer = page.getByRole("region", { name: "Mixer", exact: true });
  const level = mixer.getByRole("slider", { name: "Level of Reed bass", exact: true });
  const track = async (i = 1) => (await projectOf(page)).tracks[i]!;
  await level.focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("PageDown");
  expect((await track()).level).toBe(-3.5);
  await page.keyboard.press("Home");
  expect((await track()).level).toBe(6);
  // One drag is one step of undo; escape in the middle takes it back.
  const box = (await level.boundingBox())!;
  await page.mouse.move(box.x + 20, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + 20, box.y + 60, { steps: 4 });
  const dragged = (await track()).level;
  expect(dragged).toBeLessThan(3);
  await page.keyboard.press("Escape");
  expect((await track()).level).toBe(6);
  await page.mouse.up();
  await page.mouse.move(box.x + 20, box.y + 12);
  await page.mouse.down();
  // Out of the window and up there.
  await page.mouse.move(box.x + 20, 2000, { steps: 5 });
  await page.mouse.up();
  expect((await track()).level).toBe(-60);
  await level.dblclick();
  expect((await track()).level).toBe(0);

  const slide = async (name: string, key: string, times: number) => {
    await mixer.getByRole("slider", { name, exact: true }).focus();
    for (let i = 0; i < times; i++) await page.keyboard.press(key);
  };
  await slide("Pan of Reed bass", "ArrowRight", 3);
  await slide("Reverb of Reed bass", "ArrowRight", 2);
  await slide("Echo of Reed bass", "End", 1);
  await mixer.getByRole("button", { name: "Mute Reed bass" }).click();
  expect(await track()).toMatchObject({ pan: 0.03, mute: true, mix: { reverb: -59, echo: 6 } });
  await mixer.getByRole("button", { name: /^Levels of the lanes/ }).click();
  await slide("Level of Snare", "ArrowLeft", 4);
  expect((await track(0)).kit!.pads.find((pad) => pad.pitch === 38)!.level).toBe(-2);
  await slide("Level of the mix", "ArrowDown", 2);
  await mixer.getByLabel("Decay of the reverb as a note value").selectOption("1/1");
  await mixer.getByRole("button", { name: "Ping-pong" }).click();
  await slide("Feedback of the echo", "ArrowRight", 5);
  const after = await projectOf(page);
  expect(after.room).toEqual({ level: -1, decayValue: "1/1", pingPong: true, feedback: 45 });
  // A time set by hand is in ms again.
  await slide("Decay of the reverb", "ArrowRight", 1);
  expect((await projectOf(page)).room!.decayValue).toBeUndefined();
  await page.keyboard.press("Control+z");
  expect(await projectOf(page)).toEqual(after);

  await saved(page);
  await page.reload();
  await page.waitForFunction(() => window.hailstep !== undefined);
  expect(await projectOf(page)).toEqual(after);
  // The project's file holds it.
  const { bytes } = await exported(page, "Project as text");
  expect(readProjectJson(new TextDecoder().decode(bytes))).toMatchObject({
    room: after.room,
    tracks: [{ kit: after.tracks[0]!.kit }, { mix: after.tracks[1]!.mix }],
  });
});

test("two tabs that turn different knobs lose neither", async ({ page, context }) => {
  await openNew(page);
  await saved(page);
  const other = await context.newPage();
  await other.goto(page.url());
  await other.waitForFunction(() => window.hailstep !== undefined);
  for (const [tab, send] of [
    [page, "Reverb"],
    [other, "Echo"],
  ] as const) {
    await tab.bringToFront();
    await tab.keyboard.press("Alt+m");
    await tab.getByRole("slider", { name: `${send} of Reed bass`, exact: true }).focus();
    await tab.keyboard.press("End");
  }
  for (const tab of [page, other])
    await expect
      .poll(async () => (await projectOf(tab)).tracks[1]!.mix)
      .toEqual({ reverb: 6, echo: 6 });
});

test("what a sound is shaped with, and what ducks it, is set in the bench while the loop plays", async ({
  page,
}) => {
  await openNew(page);
  await page.getByText("Reed bass", { exact: true }).first().click();
  await page.getByRole("tab", { name: "Sound" }).click();
  await page.keyboard.press("Escape");
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Enter");
  await play(page);
  await waitSent(page, 1);
  await page.getByRole("slider", { name: "Brightness of the sound" }).focus();
  for (let i = 0; i < 10; i++) await page.keyboard.press("ArrowRight");
  await page.getByLabel("Ducked by", { exact: true }).selectOption({ label: "Kick" });
  await page.getByRole("slider", { name: "Depth of ducking" }).focus();
  await page.keyboard.press("End");
  const track = async () => (await projectOf(page)).tracks[1]!;
  expect(await track()).toMatchObject({
    shaping: { brightness: 10 },
    mix: { duckBy: "drums", duckDepth: 36 },
  });
  // Values of ours and of one's own, one undo step each.
  await page.getByRole("button", { name: /^Presets/ }).click();
  await page.getByRole("button", { name: "Dirty" }).click();
  expect((await track()).shaping).toEqual({ drive: 55, brightness: 20 });
  await page.getByLabel("Name for these values").fill("Rusty");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await page.getByRole("button", { name: "Reset shape" }).click();
  expect((await track()).shaping).toBeUndefined();
  await page.getByRole("button", { name: "Rusty", exact: true }).click();
  expect((await track()).shaping).toEqual({ drive: 55, brightness: 20 });
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Control+z");
  expect((await track()).shaping).toBeUndefined();
  await expectOnTime(page);
  await stop(page);
  await page.reload();
  await page.waitForFunction(() => window.hailstep !== undefined);
  await page.getByText("Reed bass", { exact: true }).first().click();
  await page.getByRole("tab", { name: "Sound" }).click();
  await page.getByRole("button", { name: /^Presets/ }).click();
  await page.getByRole("button", { name: "Delete preset Rusty" }).click();
  await expect(page.getByRole("button", { name: "Rusty", exact: true })).toHaveCount(0);
});

test("a pad is taken from another kit or varied, and the kit is kept under a name", async ({
  page,
}) => {
  await openNew(page);
  await page.getByRole("button", { name: "Snare", exact: true }).first().click();
  await page.getByRole("tab", { name: "Sound" }).click();
  const kit = async () => (await projectOf(page)).tracks[0]!.kit;
  await page.getByLabel("Kit this pad is from").selectOption({ label: "Pebble kit" });
  await page.getByRole("button", { name: "Another like this", exact: true }).click();
  await page.getByRole("button", { name: "Another like this", exact: true }).click();
  await page.getByRole("slider", { name: "Reverb of the pad" }).focus();
  await page.keyboard.press("End");
  expect((await kit())!.pads).toMatchObject([{ pitch: 38, from: "pebble", variant: 2, reverb: 6 }]);
  const shaped = await kit();
  await page.getByRole("button", { name: /^Your kits/ }).click();
  await page.getByLabel("Name for these values").fill("Half and half");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await page.getByRole("button", { name: "Reset pad" }).click();
  expect(await kit()).toBeUndefined();
  await page.getByLabel("Kit", { exact: true }).selectOption({ label: "Signal kit" });
  await page.getByRole("button", { name: "Half and half", exact: true }).click();
  expect((await projectOf(page)).tracks[0]).toMatchObject({ sound: "harbour", kit: shaped });
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Control+z");
  expect((await projectOf(page)).tracks[0]!.sound).toBe("signal");
  await page.getByRole("button", { name: "Delete preset Half and half" }).click();
});

test("loudness and peak are read while it plays, and begun anew", async ({ page }) => {
  await openNew(page);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Alt+m");
  const loudness = page.getByTestId("loudness");
  await expect(loudness).toHaveText("–");
  await play(page);
  await expect(loudness).toHaveText(/^-\d+\.\d$/, { timeout: 10_000 });
  await expect(page.getByTestId("peak")).toHaveText(/^-\d+\.\d$/);
  await stop(page);
  await page.waitForFunction(() => window.hailstep!.position() === null);
  // A hit's ring is over after a while; measured anew, there is nothing.
  await expect(async () => {
    await page.getByRole("button", { name: "Reset loudness" }).click();
    await expect(loudness).toHaveText("–", { timeout: 600 });
  }).toPass();
});

test("a note value of the tempo table becomes a time of the room, and follows the tempo", async ({
  page,
}) => {
  await openNew(page);
  await page.getByRole("tab", { name: "Measure" }).click();
  await page.getByLabel("What a click on a note value does").selectOption("echoTime");
  await page.getByRole("button", { name: /^Set to 1\/8T/ }).click();
  await page.getByLabel("What a click on a note value does").selectOption("preDelay");
  await page.getByRole("button", { name: /^Set to 1\/128:/ }).click();
  expect((await projectOf(page)).room).toEqual({ echoValue: "1/8T", preDelayValue: "1/128" });
  await page.keyboard.press("Alt+m");
  const time = page.getByRole("spinbutton", { name: "Time of the echo" });
  await expect(time).toHaveValue("167 ms");
  await page.getByRole("spinbutton", { name: "Tempo" }).fill("60");
  await page.keyboard.press("Enter");
  await expect(time).toHaveValue("333 ms");
});

test("ducking is set from the mixer strip, and says by what", async ({ page }) => {
  await openNew(page);
  await page.keyboard.press("Alt+m");
  // The kit has no other kit to be ducked by.
  await expect(page.getByRole("button", { name: /^Ducking of Harbour kit/ })).toBeDisabled();
  await page.getByRole("button", { name: "Ducking of Reed bass: –" }).click();
  await page.getByLabel("Ducked by", { exact: true }).selectOption({ label: "Snare" });
  await page.getByRole("slider", { name: "Depth of ducking" }).focus();
  await page.keyboard.press("End");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Ducking of Reed bass: Snare" })).toBeVisible();
  const mix = async () => (await projectOf(page)).tracks[1]!.mix;
  expect(await mix()).toMatchObject({ duckBy: "drums", duckPad: 38, duckDepth: 36 });
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  expect((await mix())?.duckBy ?? "").toBe("");
});
