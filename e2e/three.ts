import { expect, type Page } from "@playwright/test";
import type { Note, Project } from "@/core/score";
import { projectOf, ready } from "./fixtures";

export const BAR = 3840;
export const note = (id: string, start: number, pitch: number, rest: Partial<Note> = {}): Note => ({
  ...{ id, start, length: 200, pitch, velocity: 100, pan: 0, tune: 0, slide: false },
  ...rest,
});

/** A project of three patterns of a bar, each with its own kick, snare or hat, and a song on wish. */
export async function openThree(
  page: Page,
  song: Project["song"] = [],
  { tempo = 300, notes }: { tempo?: number; notes?: Record<string, Note[]> } = {},
): Promise<string> {
  const made = await page.request.post("/api/projects", { data: { name: "Three" } });
  const { id, project } = (await made.json()) as { id: string; project: Project };
  const [first] = project.patterns;
  const pads: Record<string, number> = { a: 36, b: 38, c: 42 };
  const own = (pattern: string) =>
    notes?.[pattern] ??
    [0, 960, 1920, 2880].map((at) => note(`${pattern}${at}`, at, pads[pattern]!));
  const { name, metre, key } = project;
  const change = {
    head: { name, tempo, metre, key, song },
    patternOrder: ["a", "b", "c"],
    patterns: ["a", "b", "c"].map((p) => ({ id: p, name: p.toUpperCase(), bars: 1 })),
    parts: ["a", "b", "c"].flatMap((pattern) =>
      first!.parts.map((part) => ({
        pattern,
        part: { ...part, length: BAR, notes: part.track === "drums" ? own(pattern) : [] },
      })),
    ),
  };
  const put = await page.request.patch(`/api/projects/${id}`, { data: { revision: 1, change } });
  expect(put.ok(), await put.text()).toBe(true);
  await page.goto(`/p/${id}`);
  await ready(page);
  return id;
}

export const strip = (page: Page) => page.getByRole("region", { name: "Song", exact: true });
export const tiles = (page: Page) => strip(page).getByRole("option");
export const order = async (page: Page) =>
  (await projectOf(page)).song.map(({ pattern, times }) => `${pattern}${times}`).join(" ");
export const sentPatterns = (page: Page) =>
  page.evaluate(() => window.hailstep!.sent().map((one) => one.pattern));

export const four = (over: Partial<Project["song"][number]>[] = []) =>
  ["a", "b", "c", "a"].map((pattern, i) => ({ id: `s${i}`, pattern, times: 1, ...over[i] }));
