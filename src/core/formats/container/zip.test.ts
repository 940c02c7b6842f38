import { strToU8, zipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { n } from "../../notes.test-helper";
import * as edits from "../../edits";
import { seeded } from "../../base";
import { createProject } from "../../score";
import { FormatError } from "./bytes";
import { compressed } from "../musicxml/container";
import { writeMusicXml } from "../musicxml/write";
import { readFile, writeFile } from "../registry";
import { unzipped, zipOf } from "./zip";

const LIMITS = { files: 10, bytes: 1_000_000 };
const SAMPLE = "ab".repeat(16);
/** The shortest WAV that holds sound: two silent samples. */
const WAVE = Uint8Array.from(
  atob("UklGRigAAABXQVZFZm10IBAAAAABAAEARKwAAIhYAQACABAAZGF0YQQAAAAAAAAA"),
  (c) => c.charCodeAt(0),
);
const base64 = (bytes: Uint8Array) => btoa(String.fromCharCode(...bytes));

const withSample = () => {
  const project = edits.addNotes(createProject(), { pattern: "a", track: "bass" }, [n(0), n(960)]);
  const sample = { id: SAMPLE, name: "gull.wav" };
  return edits.changePad(project, "drums", 36, { sample });
};

describe("a project as a zip", () => {
  it("is the same project when it is read, its samples byte by byte", () => {
    const project = withSample();
    const files = [{ id: SAMPLE, name: "gull.wav", data: base64(WAVE) }];
    const { body, extension } = writeFile(project, "archive", {}, files);
    expect(extension).toBe("hailstep");
    const back = readFile(body as Uint8Array, "x.hailstep");
    expect(back).toMatchObject({ format: "archive", notKept: [], project, samples: files });
    // Written again it is the same file.
    expect(writeFile(back.project, "archive", {}, back.samples).body).toEqual(body);
  });

  it("without one of its samples, or with one that is none, is refused and says which", () => {
    const project = withSample();
    const { body } = writeFile(project, "archive", {}, []);
    expect(() => readFile(body as Uint8Array, "x")).toThrow(/no file for the sample “gull.wav”/);
    const files = unzipped(body as Uint8Array, LIMITS);
    const broken = zipOf({ ...files, [`samples/${SAMPLE}.wav`]: strToU8("not a sound") });
    expect(() => readFile(broken, "x")).toThrow(/samples\/abab.*no WAV, FLAC, MP3 or OGG/);
    const more = zipOf({ ...files, [`samples/${SAMPLE}.wav`]: WAVE, "notes.txt": strToU8("hi") });
    expect(readFile(more, "x").notKept).toEqual(["“notes.txt”, which is no part of a project"]);
  });
});

describe("a zip", () => {
  it("of more than may be is refused before it is unpacked, whatever it says of its sizes", () => {
    const bomb = zipSync({ "project.json": new Uint8Array(50_000_000) });
    expect(bomb.length).toBeLessThan(100_000);
    expect(() => unzipped(bomb, LIMITS)).toThrow(/unpacks to 48 MB; at most 1 are read/);
    // One that lies about its size does not get more room than it said.
    const liar = bomb.slice();
    const view = new DataView(liar.buffer);
    for (let at = 0; at + 4 < liar.length; at++) {
      if (view.getUint32(at, true) === 50_000_000) view.setUint32(at, 1000, true);
    }
    expect(() => unzipped(liar, LIMITS)).toThrow(FormatError);
    const many = Object.fromEntries(Array.from({ length: 11 }, (_, i) => [`${i}`, WAVE]));
    expect(() => unzipped(zipSync(many), LIMITS)).toThrow(/11 files; at most 10/);
  });

  it("with names that lead out of it is refused", () => {
    for (const name of ["../x", "a/../../x", "/etc/x", "C:\\x", "a\\b", "./x", "a/./b"]) {
      const bytes = zipSync({ [name]: WAVE });
      expect(() => unzipped(bytes, LIMITS), name).toThrow(/leads out of it/);
    }
  });
});

describe("files of every kind, cut off and changed at random", () => {
  const project = withSample();
  const plain = edits.changePad(project, "drums", 36, { sample: null });
  const { text } = writeMusicXml(plain);
  const whole: Record<string, Uint8Array> = {
    archive: writeFile(plain, "archive").body as Uint8Array,
    midi: writeFile(plain, "midi").body as Uint8Array,
    project: strToU8(writeFile(plain, "project").body as string),
    score: strToU8(text),
    mxl: compressed(text),
  };
  for (const [kind, bytes] of Object.entries(whole)) {
    it(`are read or refused with a sentence: ${kind}`, () => {
      const random = seeded(kind.length * 77);
      const below = (most: number) => Math.floor(random() * most);
      for (let i = 0; i < 2000; i++) {
        const cut = bytes.slice(0, i % 3 === 0 ? below(bytes.length) : bytes.length);
        const changes = i % 3 === 0 ? below(2) : 1 + below(6);
        for (let k = 0; k < changes && cut.length > 0; k++) cut[below(cut.length)] = below(256);
        try {
          const { project: made } = readFile(cut, "x");
          expect(made.patterns.length).toBeGreaterThan(0);
        } catch (error) {
          expect(["FormatError", "ProjectError"], String(error)).toContain((error as Error).name);
          expect((error as Error).message.length).toBeGreaterThan(8);
        }
      }
    });
  }
});
