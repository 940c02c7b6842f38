import { test } from "vitest";
import * as edits from "@/core/edits";
import {
  type Note,
  type Project,
  type SongEntry,
  createProject,
  makeNote,
  makeTrack,
} from "@/core/score";
import { playbackEvents } from "@/core/playback";
import { report, sideBySide } from "./side-by-side";

const BAR = 3840;
/** A window of the scheduler: a fortieth of a second at 120 BPM. */
const WINDOW = 48;

/** A bar of sixteen tracks with sixteen notes each; with `life` every other has a chance or a condition. */
function tracks16(life: boolean): Project {
  let project = createProject({ bars: 1 });
  for (let i = 0; i < 14; i++) {
    const track = makeTrack({ id: `t${i}`, kind: "melody", name: `T${i}`, sound: "keel-bass" });
    project = edits.addTrack(project, track);
  }
  for (const { id } of project.tracks) {
    const notes = Array.from({ length: 16 }, (_, i): Note => ({
      ...makeNote({ id: `${id}-${i}`, start: i * 240, length: 200, pitch: 36 + (i % 12) }),
      ...(life && i % 2 === 1 && { chance: 50 }),
      ...(life && i % 4 === 2 && { when: "2/3" as const }),
    }));
    project = edits.setNotes(project, { pattern: "a", track: id }, notes);
  }
  return project;
}

const sections = (count: number, times: number): SongEntry[] =>
  Array.from({ length: count }, (_, i) => ({ id: `s${i}`, pattern: "a", times }));

/** Windows one after another about a tick. */
const windows = (project: Project, around: number, pattern?: string) => () => {
  for (let i = 0; i < 400; i++) {
    const from = around + i * WINDOW;
    playbackEvents(project, from, from + WINDOW, pattern === undefined ? {} : { pattern });
  }
};

test("a window of a song", () => {
  const plain = tracks16(false);
  const long = { ...plain, song: sections(500, 10) };
  report(
    "a window in a song of 5 000 bars, 16 tracks, against a loop of a bar",
    sideBySide(windows(long, 4_500 * BAR), windows(plain, 0, "a"), 20),
    "below 1.5",
  );
  const longest = { ...plain, song: sections(512, 999) };
  const short = { ...plain, song: sections(5, 999) };
  report(
    "a window of 512 sections with 999 repeats against 5 of them",
    sideBySide(windows(longest, 511_000 * BAR), windows(short, 4_000 * BAR), 20),
    "about 1",
  );
  const alive = tracks16(true);
  report(
    "a window with chance and conditions on half of the notes, against none",
    sideBySide(windows(alive, 0, "a"), windows(plain, 0, "a"), 20),
    "below 2",
  );
});
