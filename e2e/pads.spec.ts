import { KITS } from "@/audio/kits/registry";
import type { Page } from "@playwright/test";
import { wave } from "./wave";
import {
  clickAt,
  expect,
  openCopy,
  openNew,
  play,
  projectOf,
  ready,
  saved,
  stop,
  test,
  waitSent,
} from "./fixtures";

const padOf = async (page: Page, pitch: number) =>
  (await projectOf(page)).tracks[0]!.kit?.pads.find((pad) => pad.pitch === pitch);

/** Drops a file on an element, as from a folder of the desktop. */
async function drop(page: Page, selector: string, name: string, bytes: Buffer, type = "audio/wav") {
  const transfer = await page.evaluateHandle(
    ([data, fileName, fileType]) => {
      const list = new DataTransfer();
      const raw = Uint8Array.from(atob(data), (c) => c.charCodeAt(0));
      list.items.add(new File([raw], fileName, { type: fileType }));
      return list;
    },
    [bytes.toString("base64"), name, type] as const,
  );
  await page.dispatchEvent(selector, "drop", { dataTransfer: transfer });
}
const PAD = 'section[aria-label^="Pad "]';

/** Renders the pattern and gives the loudest sample of each stretch of so many ms, on both sides. */
const peaks = (page: Page, ms: number, ticks = 3840) =>
  page.evaluate(
    async ([step, to]) => {
      const probe = window.hailstep!;
      const buffer = await probe.bounce(probe.project(), 0, to, { pattern: "a" });
      const size = Math.round((buffer.sampleRate * step) / 1000);
      return [0, 1].map((c) => {
        const samples = buffer.getChannelData(c);
        const list: number[] = [];
        for (let at = 0; at + size <= samples.length; at += size) {
          let most = 0;
          for (let i = at; i < at + size; i++) most = Math.max(most, Math.abs(samples[i]!));
          list.push(most);
        }
        return list;
      });
    },
    [ms, ticks] as const,
  );

test("kits are swapped while playing, by key, without touching the notes", async ({ page }) => {
  await openCopy(page, "Slack Water");
  const { notes } = (await projectOf(page)).patterns[0]!.parts[0]!;
  await page.getByRole("button", { name: "Kick", exact: true }).click();
  await play(page);
  await waitSent(page, 8);
  const kits = [];
  for (let i = 0; i < KITS.length; i++) {
    await page.keyboard.press("Shift+K");
    kits.push((await projectOf(page)).tracks[0]!.sound);
    const { sent } = await page.evaluate(() => window.hailstep!.counts());
    await waitSent(page, sent + 4);
  }
  expect(new Set(kits).size).toBe(KITS.length);
  expect(kits.at(-1)).toBe("harbour");
  await page.keyboard.press("Shift+J");
  expect((await projectOf(page)).tracks[0]!.sound).toBe(KITS.at(-1)!.id);
  // Each track has a meter, and so has the whole.
  await expect
    .poll(() =>
      page
        .getByTestId("meter")
        .locator("div")
        .evaluate((bar) => bar.getBoundingClientRect().width),
    )
    .toBeGreaterThan(2);
  await stop(page);
  expect((await projectOf(page)).patterns[0]!.parts[0]!.notes).toEqual(notes);
});

test("from a hit to its pad in one key; a pad is shaped and heard so", async ({ page }) => {
  await openNew(page);
  await clickAt(page, "drums", 45, 0);
  await page.keyboard.press("p");
  await expect(page.getByRole("region", { name: "Pad Low tom" })).toBeVisible();
  await expect(page.getByRole("slider", { name: "Pitch of the pad" })).toBeFocused();
  const set = async (name: string, value: string) => {
    const field = page.getByRole("spinbutton", { name, exact: true });
    await field.fill(value);
    await field.press("Enter");
  };
  const before = await peaks(page, 20);
  await set("Decay", "60");
  const short = await peaks(page, 20);
  const sounding = (list: number[]) => list.findLastIndex((peak) => peak > 0.01);
  expect(sounding(before[0]!)).toBeGreaterThan(10);
  expect(sounding(short[0]!)).toBeLessThanOrEqual(3);
  await set("Pan of the pad", "L 100");
  const left = await peaks(page, 20);
  expect(Math.max(...left[1]!)).toBeLessThan(0.001);
  expect(Math.max(...left[0]!)).toBeGreaterThan(0.1);
  await page.getByRole("combobox", { name: "Filter" }).selectOption("lowpass");
  await set("Cutoff", "1.2k");
  expect(await padOf(page, 45)).toMatchObject({
    filter: "lowpass",
    cutoff: 1200,
    decay: 60,
    pan: -1,
  });
  await set("Level of the kit", "-12");
  const quiet = await peaks(page, 20);
  expect(Math.max(...quiet[0]!)).toBeLessThan(Math.max(...left[0]!) * 0.4);

  // The decay's dot and the start's line are dragged on the wave itself; a click elsewhere is heard.
  const wavebox = (await page.getByTestId("waveform").boundingBox())!;
  await page.mouse.move(wavebox.x + 1, wavebox.y + 20);
  await page.mouse.down();
  await page.mouse.move(wavebox.x + wavebox.width / 4, wavebox.y + 20, { steps: 4 });
  await page.mouse.up();
  expect((await padOf(page, 45))!.start).toBeGreaterThan(50);
  await page.getByRole("button", { name: "Reset pad" }).click();
  expect(await padOf(page, 45)).toBeUndefined();
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
  expect((await padOf(page, 45))!.decay).toBe(60);
});

test("a closed hat stops an open one within 20 ms", async ({ page }) => {
  await openNew(page);
  await clickAt(page, "drums", 46, 0);
  const open = (await peaks(page, 5))[0]!;
  await clickAt(page, "drums", 42, 480);
  // The closed hat itself is made silent by velocity 1, so that what is measured is the open one.
  await page.keyboard.press("Escape");
  const velocity = async () => {
    await page.keyboard.press("n");
    const field = page.getByRole("spinbutton", { name: "Velocity of the selection" });
    await field.fill("1");
    await field.press("Enter");
  };
  await page.getByTestId("sheet").focus();
  await velocity();
  const choked = (await peaks(page, 5))[0]!;
  // At 120 BPM the closed hat comes 250 ms in, 5 ms to a stretch.
  expect(open[49]!).toBeGreaterThan(0.02);
  expect(choked[49]!).toBeCloseTo(open[49]!, 3);
  expect(open[54]!).toBeGreaterThan(0.02);
  expect(Math.max(...choked.slice(54, 100))).toBeLessThan(open[49]! / 50);
});

test("a sample is dropped on a pad, heard, kept over a reload, and goes along in the file", async ({
  page,
}) => {
  const id = await openNew(page);
  await clickAt(page, "drums", 38, 0);
  await page.keyboard.press("p");
  const plain = await peaks(page, 50);
  await drop(page, PAD, "winch.wav", wave(0.8));
  await expect(page.getByTestId("sample-name")).toHaveText("winch.wav");
  const own = await peaks(page, 50);
  expect(own).not.toEqual(plain);
  expect(own[0]![10]!).toBeGreaterThan(0.01);
  await saved(page);
  await page.reload();
  await ready(page);
  expect((await padOf(page, 38))!.sample!.name).toBe("winch.wav");
  expect(await peaks(page, 50)).toEqual(own);
  await play(page);
  await waitSent(page, 1);
  await stop(page);

  // The kit may change: the pad's own sound stays.
  await page.getByRole("button", { name: "Snare", exact: true }).click();
  await page.keyboard.press("Shift+K");
  expect(await peaks(page, 50)).toEqual(own);

  const file = await (await page.request.get(`/api/projects/${id}/export?format=json`)).text();
  expect(JSON.parse(file)).toMatchObject({ samples: [{ name: "winch.wav" }] });
  const taken = await page.request.post("/api/import?name=x.json", { data: Buffer.from(file) });
  expect(taken.status()).toBe(201);
});

test("files that are no sound are refused with the reason, and the pad stays as it was", async ({
  page,
  problems,
}) => {
  await openNew(page);
  await clickAt(page, "drums", 38, 0);
  await page.keyboard.press("p");
  await drop(page, PAD, "winch.wav", wave(0.3));
  await expect(page.getByTestId("sample-name")).toHaveText("winch.wav");
  const good = wave(0.3);
  const silent = Buffer.from(good.subarray(0, 44));
  silent.writeUInt32LE(0, 40);
  for (const [name, bytes, reason] of [
    ["notes.wav", Buffer.from("not sound at all"), /no WAV, FLAC, MP3 or OGG/],
    ["cut.wav", good.subarray(0, 900), /cut off/],
    ["empty.wav", silent, /no sound at all/],
    ["zero.wav", Buffer.alloc(0), /empty/],
    ["odd.flac", Buffer.concat([Buffer.from("fLaC"), Buffer.alloc(200)]), /cannot decode/],
  ] as const) {
    await drop(page, PAD, name, Buffer.from(bytes));
    await expect(page.getByText(new RegExp(`“${name}” not loaded`))).toContainText(reason);
    expect((await padOf(page, 38))!.sample!.name).toBe("winch.wav");
  }
  // A file of 100 MB is refused by the page before it is read, and by the server.
  await page.evaluate((selector) => {
    const transfer = new DataTransfer();
    transfer.items.add(new File([new ArrayBuffer(100 * 1024 * 1024)], "huge.wav"));
    const event = new DragEvent("drop", {
      bubbles: true,
      cancelable: true,
      dataTransfer: transfer,
    });
    document.querySelector(selector)!.dispatchEvent(event);
  }, PAD);
  await expect(page.getByText(/“huge.wav” not loaded. It is 100 MB large/)).toBeVisible();
  const refused = await page.request.post("/api/samples?name=huge.wav", {
    data: Buffer.alloc(21 * 1024 * 1024),
  });
  expect(refused.status()).toBe(413);
  expect(problems).toEqual([]);
});
