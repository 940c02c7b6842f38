import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import * as edits from "@/core/edits";
import { createProject, makeNote } from "@/core/score";
import { FORMATS, readFile, readSmf } from "@/core/formats";
import { createSession } from "../../state/store";
import { EXPORTS, exportAs } from "./export";

const toasts: string[] = [];
vi.mock("sonner", () => ({
  toast: {
    success: (text: string) => toasts.push(text),
    error: (text: string) => toasts.push(`error: ${text}`),
  },
}));

const BASS = { pattern: "a", track: "bass" };
const files: { name: string; type: string; bytes: Promise<ArrayBuffer> }[] = [];

beforeEach(() => {
  toasts.length = 0;
  files.length = 0;
  let blob: Blob;
  vi.spyOn(URL, "createObjectURL").mockImplementation((made) => {
    blob = made as Blob;
    return "blob:x";
  });
  vi.spyOn(URL, "revokeObjectURL").mockImplementation(() => undefined);
  vi.stubGlobal("document", {
    createElement: () => ({
      href: "",
      download: "",
      click() {
        files.push({ name: this.download, type: blob.type, bytes: blob.arrayBuffer() });
      },
    }),
  });
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

const choice = (id: string) => EXPORTS.find((one) => one.id === id)!;
function open(name = "Slack: Water") {
  let project = edits.renameProject(createProject(), name);
  project = edits.addNotes(project, BASS, [makeNote({ id: "n", start: 0 })]);
  return createSession("x", edits.addPattern(project, "b", "a", "copy"));
}
const onPad = (store: ReturnType<typeof open>) =>
  store
    .getState()
    .edit("Sample", (p) =>
      edits.changePad(p, "drums", 36, { sample: { id: "a".repeat(32), name: "gull.wav" } }),
    );

describe("exports", () => {
  it("are those that the formats offer, each with a name of its own", () => {
    const offered = Object.values(FORMATS).flatMap(({ choices }) => choices);
    expect(EXPORTS.map((one) => one.choice)).toEqual(offered);
    expect(new Set(EXPORTS.map((one) => one.label)).size).toBe(EXPORTS.length);
  });

  it("give a file named after project and pattern, and say what it leaves out", async () => {
    const store = open();
    store.getState().edit("Mute", (p) => edits.changeTrack(p, "drums", { mute: true }));
    await exportAs(store, choice("midi-pattern"));
    expect(files).toMatchObject([{ name: "Slack_ Water Main.mid", type: "audio/midi" }]);
    const { project } = readSmf(new Uint8Array(await files[0]!.bytes));
    expect(project.tracks).toHaveLength(1);
    expect(project.patterns[0]!.bars).toBe(2);
    expect(toasts).toEqual(["MIDI file exported; 1 silent track left out"]);
    await exportAs(store, choice("midi-all"));
    expect(readSmf(new Uint8Array(await files[1]!.bytes)).project.patterns[0]!.bars).toBe(4);
  });

  it("hold what is heard; the project's own file holds what is written", async () => {
    const store = open();
    const notes = [makeNote({ id: "p", start: 960 })];
    store.getState().setHearing({ preview: { place: BASS, notes, label: "idea" } });
    await exportAs(store, choice("midi-pattern"));
    await exportAs(store, choice("project-project"));
    const starts = await Promise.all(
      files.map(async (file) => {
        const { project } = readFile(new Uint8Array(await file.bytes), "x");
        return project.patterns[0]!.parts.flatMap((part) => part.notes)[0]!.start;
      }),
    );
    expect(starts).toEqual([960, 0]);
  });

  it("bring the samples along, and give no file where the server does not have one", async () => {
    const store = open();
    onPad(store);
    vi.stubGlobal("fetch", () => Promise.resolve(new Response(null, { status: 404 })));
    await exportAs(store, choice("project-project"));
    expect(files).toEqual([]);
    expect(toasts).toEqual([
      "error: Project as text not exported: The server does not give the sample “gull.wav”",
    ]);
    vi.stubGlobal("fetch", () => Promise.resolve(new Response(new Uint8Array([1, 2, 3]))));
    vi.stubGlobal(
      "FileReader",
      class {
        result = "data:;base64,AQID";
        onload = () => {};
        readAsDataURL() {
          queueMicrotask(() => this.onload());
        }
      },
    );
    await exportAs(store, choice("project-project"));
    const { samples } = readFile(new Uint8Array(await files[0]!.bytes), "x");
    expect(samples).toEqual([{ id: "a".repeat(32), name: "gull.wav", data: "AQID" }]);
  });
});
