import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { putOff } from "./keeping";

let page: EventTarget;
const leave = () => page.dispatchEvent(new Event("pagehide"));

beforeEach(() => {
  vi.useFakeTimers();
  page = new EventTarget();
  vi.stubGlobal("window", page);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it("does what was put off after the pause, or when the page is left, and once", () => {
  const done: boolean[] = [];
  const { ask } = putOff((leaving) => void done.push(leaving), 250);
  ask();
  vi.advanceTimersByTime(249);
  expect(done).toEqual([]);
  vi.advanceTimersByTime(1);
  leave();
  expect(done).toEqual([false]);
  ask();
  leave();
  vi.advanceTimersByTime(1000);
  expect(done).toEqual([false, true]);
});

it("does once more what is still under way when the page is left", async () => {
  const done: boolean[] = [];
  const ends: (() => void)[] = [];
  const { ask } = putOff((leaving) => {
    done.push(leaving);
    return new Promise<void>((end) => ends.push(end));
  }, 250);
  ask();
  vi.advanceTimersByTime(250);
  leave();
  expect(done).toEqual([false, true]);
  // What came true is done: the first of two says nothing of the second.
  ends[0]!();
  await vi.advanceTimersByTimeAsync(0);
  leave();
  expect(done).toEqual([false, true, true]);
  ends[2]!();
  await vi.advanceTimersByTimeAsync(0);
  leave();
  expect(done).toEqual([false, true, true]);
});

it("does once more what failed", async () => {
  const done: boolean[] = [];
  const { ask, stop } = putOff((leaving) => {
    done.push(leaving);
    return leaving ? Promise.resolve() : Promise.reject(new Error("no room"));
  }, 250);
  ask();
  await vi.advanceTimersByTimeAsync(250);
  stop();
  expect(done).toEqual([false, true]);
});
