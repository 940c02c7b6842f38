import { afterEach, beforeEach, describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { createProject } from "@/core/score";
import { ProjectError, diffProjects } from "@/core/stored";
import {
  FormatError,
  audioKind,
  readFile,
  readProjectFile,
  writeProjectJson,
} from "@/core/formats";
import { wave } from "../../e2e/wave";
import { openDatabase, type Database } from "./database";
import { ApiError } from "./errors";
import { MAX_SAMPLE, readBytes } from "./http";
import { libraryPage } from "./library";
import { ProjectService } from "./projects";
import { reclaim } from "./reclaim";
import { samples } from "./schema";
import { UserService } from "./user";

let database: Database;
let service: ProjectService;
beforeEach(() => {
  database = openDatabase(":memory:");
  service = new ProjectService(database, () => 1);
});
afterEach(() => database.$client.close());

const thrown = (work: () => unknown): { status: number; message: string } => {
  try {
    work();
  } catch (error) {
    const status = error instanceof ApiError ? error.status : 0;
    return { status, message: (error as Error).message };
  }
  return { status: 200, message: "" };
};
const onPad = (id: string) =>
  edits.changePad(createProject(), "drums", 38, { sample: { id, name: "gull.wav" } });

describe("audio files are known by what they hold", () => {
  const bytes = (...values: (number | string)[]) =>
    Buffer.concat(values.map((v) => (typeof v === "string" ? Buffer.from(v) : Buffer.alloc(v))));
  it("takes WAV, FLAC, Ogg and MP3", () => {
    expect(audioKind(wave(0.1))).toBe("wav");
    expect(audioKind(bytes("fLaC", 60))).toBe("flac");
    expect(audioKind(bytes("OggS", 60))).toBe("ogg");
    expect(audioKind(bytes("ID3", 200))).toBe("mp3");
    expect(audioKind(Buffer.concat([Buffer.from([0xff, 0xfb, 0x90, 0]), Buffer.alloc(200)]))).toBe(
      "mp3",
    );
  });
  it("reads past chunks it does not know, of odd size too", () => {
    const plain = wave(0.05);
    const extra = Buffer.concat([Buffer.from("LIST"), Buffer.from([3, 0, 0, 0]), Buffer.alloc(4)]);
    const with_ = Buffer.concat([plain.subarray(0, 12), extra, plain.subarray(12)]);
    expect(audioKind(with_)).toBe("wav");
  });
  it("says what is wrong with anything else", () => {
    const whole = wave(0.1);
    const silent = Buffer.from(whole.subarray(0, 44));
    silent.writeUInt32LE(0, 40);
    const broken: [Uint8Array, RegExp][] = [
      [Buffer.from("just some text, named .wav"), /no WAV, FLAC, MP3 or OGG/],
      [Buffer.alloc(0), /empty/],
      [whole.subarray(0, 1000), /cut off: it says \d+ bytes of sound and holds 956/],
      [silent, /no sound at all/],
      [whole.subarray(0, 30), /breaks off/],
      [Buffer.concat([whole.subarray(0, 8), Buffer.from("AVI "), Buffer.alloc(40)]), /no WAVE/],
      [Buffer.concat([whole.subarray(0, 12), whole.subarray(36)]), /before its format/],
      [Buffer.from("fLaC"), /breaks off/],
    ];
    for (const [file, reason] of broken) expect(() => audioKind(file)).toThrow(reason);
    const mute = Buffer.from(whole);
    mute.writeUInt16LE(0, 22);
    expect(() => audioKind(mute)).toThrow(/0 channels/);
  });
});

describe("samples", () => {
  it("are kept once, whatever their name, and given back byte for byte", () => {
    const first = service.samples.add(wave(0.1), "gull.wav");
    const again = service.samples.add(wave(0.1), "other name.wav");
    expect(again.id).toBe(first.id);
    expect(first.id).toMatch(/^[0-9a-f]{32}$/);
    expect(database.select().from(samples).all()).toHaveLength(1);
    const back = service.samples.read(first.id);
    expect(Buffer.compare(back.bytes, wave(0.1))).toBe(0);
    expect(back).toMatchObject({ name: "gull.wav", type: "audio/wav" });
    expect(thrown(() => service.samples.read("0".repeat(32))).status).toBe(404);
    expect(() => service.samples.add(Buffer.from("text"), "x.wav")).toThrow(FormatError);
  });

  it("must be there before a pad can use them", () => {
    const missing = thrown(() => service.create(onPad("a".repeat(32))));
    expect(missing).toMatchObject({ status: 422 });
    expect(missing.message).toContain("“gull.wav”");
    const { id } = service.create(createProject());
    const change = diffProjects(createProject(), onPad("a".repeat(32)))!;
    expect(thrown(() => service.change(id, 1, change)).status).toBe(422);
    expect(service.read(id).revision).toBe(1);
    const ref = service.samples.add(wave(0.1), "gull.wav");
    const good = diffProjects(createProject(), onPad(ref.id))!;
    expect(service.change(id, 1, good).revision).toBe(2);
    expect(service.read(id).project.tracks[0]!.kit!.pads[0]!.sample).toEqual(ref);
  });

  it("go along in a project's own file, and come in with it", () => {
    const ref = service.samples.add(wave(0.2), "gull.wav");
    const project = onPad(ref.id);
    const files = service.samples.filesOf(project);
    const text = writeProjectJson(project, files);

    const other = openDatabase(":memory:");
    const elsewhere = new ProjectService(other);
    const read = readFile(Buffer.from(text), "x.json");
    const { id } = elsewhere.import(read.project, read.samples);
    expect(elsewhere.read(id).project).toEqual(project);
    expect(Buffer.compare(elsewhere.samples.read(ref.id).bytes, wave(0.2))).toBe(0);

    // Without its sample, or with another one under its id, the file is refused whole.
    const empty = openDatabase(":memory:");
    const fresh = new ProjectService(empty);
    expect(thrown(() => fresh.import(project, [])).status).toBe(422);
    const swapped = [{ ...files[0]!, data: wave(0.3).toString("base64") }];
    expect(thrown(() => fresh.import(project, swapped)).message).toContain("not what its id says");
    const text64 = Buffer.from("text").toString("base64");
    expect(() => fresh.import(project, [{ ...files[0]!, data: text64 }])).toThrow(FormatError);
    expect(libraryPage(empty).cards).toEqual([]);
    expect(empty.select().from(samples).all()).toEqual([]);
    other.$client.close();
    empty.$client.close();
  });

  it("are refused in a file when they are not bytes in base64", () => {
    const file = JSON.parse(writeProjectJson(createProject())) as Record<string, unknown>;
    for (const wrong of [
      "x",
      [{ id: "1", name: "x", data: "" }],
      [{ id: "a".repeat(32), name: 3, data: "" }],
      [{ id: "a".repeat(32), name: "x", data: "not base64!" }],
      [null],
    ]) {
      const text = JSON.stringify({ ...file, samples: wrong });
      expect(() => readProjectFile(text)).toThrow(ProjectError);
    }
  });

  it("are refused above 20 MB before they are read whole", async () => {
    const request = (announced: number, body: Uint8Array<ArrayBuffer>) =>
      new Request("http://127.0.0.1/", {
        method: "POST",
        body,
        headers: { "content-length": String(announced) },
      });
    await expect(
      readBytes(request(100 * 1024 * 1024, new Uint8Array(8)), MAX_SAMPLE),
    ).rejects.toMatchObject({ status: 413, message: expect.stringContaining("20 MB") as string });
    const large = new Uint8Array(MAX_SAMPLE + 1);
    await expect(readBytes(request(0, large), MAX_SAMPLE)).rejects.toMatchObject({ status: 413 });
  });
});

describe("what belongs to the user", () => {
  const g = (value: number) => ({ value, kind: "straight", swing: 50 });
  it("keeps grids, and refuses what are none", () => {
    const user = new UserService(database, () => 1);
    expect(user.grids()).toEqual({ recent: [], pinned: [] });
    const grids = { recent: [g(16), g(8)], pinned: [g(32)] };
    user.setGrids(grids);
    expect(new UserService(database).grids()).toEqual(grids);
    expect(thrown(() => user.setGrids({ recent: [g(17)], pinned: [] })).status).toBe(422);
    expect(thrown(() => user.setGrids({ recent: [] })).status).toBe(422);
    expect(user.grids()).toEqual(grids);
  });

  it("keeps presets by transform and name, checked against the transform", () => {
    const user = new UserService(database, () => 1);
    const roll = { transform: "roll", name: "Quick", params: { count: 6 } };
    const { id } = user.addPreset(roll);
    user.addPreset({ ...roll, params: { count: 8 } });
    user.addPreset({ ...roll, transform: "fill", params: { every: 3 } });
    expect(user.presets().map((p) => [p.transform, p.params])).toEqual([
      ["roll", { count: 8 }],
      ["fill", { every: 3 }],
    ]);
    for (const wrong of [
      { ...roll, transform: "twist" },
      { ...roll, params: { count: 0 } },
      { ...roll, params: { speed: 1 } },
      { ...roll, name: " " },
      { ...roll, extra: 1 },
      null,
    ]) {
      expect(thrown(() => user.addPreset(wrong)).status).toBe(422);
    }
    user.removePreset(id);
    expect(user.presets()).toHaveLength(1);
    expect(thrown(() => user.removePreset(id)).status).toBe(404);
  });
});

describe("an imported project's chain", () => {
  it("is refused with an unknown transform or wrong values, each by its path", () => {
    const step = { id: "s", transform: "roll", on: true, params: {}, scope: null };
    const place = { pattern: "a", track: "drums" };
    let project = edits.addStep(createProject(), place, { ...step, transform: "twist" });
    project = edits.addStep(project, place, { ...step, id: "t", params: { count: 900 } });
    project = edits.addStep(project, place, { ...step, id: "u", lane: 400 });
    const paths = () => {
      try {
        readFile(Buffer.from(writeProjectJson(project)), "x.json");
        return [];
      } catch (error) {
        return (error as ProjectError).problems.map((p) => p.path);
      }
    };
    expect(paths()).toEqual(["patterns[0].parts[0].chain[2].lane"]);
    project = edits.deleteStep(project, place, "u");
    expect(paths()).toEqual([
      "patterns[0].parts[0].chain[0].transform",
      "patterns[0].parts[0].chain[1].params.count",
    ]);
  });
});

describe("the recording behind a pattern", () => {
  it("is kept with the project, refused where its sound is not here, and its sound is not cleared away", () => {
    const { id } = service.create(createProject({ name: "Quay" }));
    const { project } = service.read(id);
    const pattern = project.patterns[0]!.id;
    const put = (sample: { id: string; name: string }) =>
      edits.setRecording(project, pattern, { sample, tempo: 97.5, first: 0.25 });
    const unknown = put({ id: "0".repeat(32), name: "gone.wav" });
    const refused = thrown(() => service.change(id, 1, diffProjects(project, unknown)!));
    expect(refused).toMatchObject({ status: 422 });
    expect(refused.message).toContain("gone.wav");
    const sample = service.samples.add(wave(0.2), "quay.wav");
    service.change(id, 1, diffProjects(project, put(sample))!);
    expect(service.read(id).project.patterns[0]!.recording).toEqual({
      sample,
      tempo: 97.5,
      first: 0.25,
    });
    const { samples: cleared } = reclaim(database, 1 + 40 * 24 * 60 * 60 * 1000);
    expect(cleared).toBe(0);
  });
});
