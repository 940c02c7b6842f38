import createVerovioModule from "verovio/wasm";
import { VerovioToolkit } from "verovio/esm";
import { parseMidi } from "midi-file";
import { beforeAll, describe, expect, it } from "vitest";
import { n } from "../../notes.test-helper";
import * as edits from "../../edits";
import { grid } from "../../time";
import { type ChordMark, type Note, type Project, createProject } from "../../score";
import { playbackEvents } from "../../playback";
import { writeMusicXml } from "./write";
import { readMusicXml } from "./read";

const BASS = { pattern: "a", track: "bass" };
const DRUMS = { pattern: "a", track: "drums" };

let toolkit: VerovioToolkit;
beforeAll(async () => {
  toolkit = new VerovioToolkit(await createVerovioModule());
}, 60_000);

/** Notes as another program plays a score: [quarters, quarters, pitch]. */
function theirs(text: string): [number, number, number][] {
  toolkit.setOptions({ breaks: "none" });
  expect(toolkit.loadData(text)).toBeTruthy();
  const { header, tracks } = parseMidi(Buffer.from(toolkit.renderToMIDI(), "base64"));
  const found: [number, number, number][] = [];
  for (const track of tracks) {
    const open = new Map<number, number>();
    let at = 0;
    for (const event of track) {
      at += event.deltaTime / header.ticksPerBeat!;
      if (event.type !== "noteOn" && event.type !== "noteOff") continue;
      const { noteNumber: pitch } = event;
      if (event.type === "noteOn" && event.velocity > 0) open.set(pitch, at);
      else if (open.has(pitch)) {
        // That program lets go of each note 1/120 of a quarter before its end.
        const length = Math.round((at - open.get(pitch)! + 1 / 120) * 960) / 960;
        found.push([open.get(pitch)!, length, pitch]);
        open.delete(pitch);
      }
    }
  }
  return found.sort((a, b) => a[0] - b[0] || a[2] - b[2]);
}

const written = (project: Project, options = {}) => writeMusicXml(project, options).text;
const line = (notes: readonly Note[], key = { root: 0, scale: "major" }) =>
  edits.setNotes(edits.setKey(createProject({ bars: 2 }), key), BASS, [...notes]);
const ours = (notes: readonly Note[]) =>
  notes.map((note) => [note.start / 960, note.length / 960, note.pitch]);
const rounded = (list: readonly (readonly number[])[]) =>
  list.map((row) => row.map((x) => Math.round(x * 1000) / 1000));

describe("a score", () => {
  it("of plain values is read by another program as what it is: onsets, lengths, pitches", () => {
    const notes = [
      n(0, { length: 960, pitch: 60 }),
      n(960, { length: 480, pitch: 62 }),
      n(1440, { length: 1440, pitch: 64 }),
      n(2880, { length: 240, pitch: 65 }),
      n(3120, { length: 720, pitch: 67 }),
      // Over the bar line.
      n(3840 + 480, { length: 1920, pitch: 59 }),
      n(3840 + 2880, { length: 720, pitch: 72 }),
    ];
    expect(rounded(theirs(written(line(notes))))).toEqual(rounded(ours(notes)));
  });

  it("has as many measures as the pattern has bars, each filled to its end with notes and rests", () => {
    for (const metre of [
      { beats: 4, unit: 4 },
      { beats: 3, unit: 4 },
      { beats: 7, unit: 8 },
    ] as const)
      for (const start of [0, 700, 2880])
        for (const bars of [1, 2, 3]) {
          const made = edits.setMetre(createProject({ bars }), metre);
          const bar = (metre.beats * 3840) / metre.unit;
          const at = (bars - 1) * bar + Math.min(start, bar - 480);
          // The only note is in the last bar, or the last bar has none.
          for (const tick of bars > 1 ? [at, start % bar] : [at]) {
            const text = written(edits.setNotes(made, BASS, [n(tick, { length: 240, pitch: 60 })]));
            const divisions = Number(/<divisions>(\d+)/.exec(text)![1]);
            const part = text.slice(text.lastIndexOf("<part id"));
            const measures = part.match(/<measure[\s\S]*?<\/measure>/g)!;
            expect(measures).toHaveLength(bars);
            for (const measure of measures) {
              // One voice: what is backed up over would be counted twice.
              expect(measure).not.toContain("<backup>");
              const durations = [...measure.matchAll(/<duration>(\d+)/g)].map(([, d]) => Number(d));
              const quarters = durations.reduce((sum, d) => sum + d, 0) / divisions;
              expect(quarters, `${metre.beats}/${metre.unit}, ${bars} bars, ${tick}`).toBe(
                bar / 960,
              );
            }
            const [note] = theirs(text);
            expect(note![0]).toBeCloseTo(Math.round(tick / 20) / 48, 1);
          }
        }
  });

  it("ties over bars and beats, and gives chords and overlapping voices", () => {
    const notes = [
      n(2880, { length: 1920, pitch: 60 }),
      n(2880, { length: 1920, pitch: 64 }),
      n(3360, { length: 960, pitch: 72 }),
      n(5760, { length: 1920, pitch: 48 }),
    ];
    const text = written(line(notes));
    expect(text.match(/<tie type="start"/g)!.length).toBeGreaterThanOrEqual(3);
    expect(text).toContain("<chord/>");
    expect(text).toContain("<voice>2</voice>");
    const events = theirs(text);
    for (const [start, , pitch] of ours(notes))
      expect(events.some(([at, , key]) => Math.abs(at - start!) < 1e-6 && key === pitch)).toBe(
        true,
      );
    const sum = (list: readonly (readonly number[])[]) => list.reduce((s, row) => s + row[1]!, 0);
    expect(sum(events)).toBeCloseTo(sum(ours(notes)), 6);
  });

  it("divides beats in three where that is what was played, and only there", () => {
    const thirds = [0, 320, 640].map((at) => n(at, { length: 320, pitch: 60 }));
    const straight = [960, 1200, 1440, 1680].map((at) => n(at, { length: 240, pitch: 62 }));
    const late = [1920 + 30, 2400 - 25, 2880 + 40].map((at) => n(at, { length: 200, pitch: 64 }));
    const text = written(line([...thirds, ...straight, ...late]));
    expect(text.match(/<tuplet type="start"/g)).toHaveLength(1);
    expect(text.match(/<actual-notes>3/g)).toHaveLength(3);
    const starts = theirs(text).map(([at]) => Math.round(at * 960));
    expect(starts).toEqual([0, 320, 640, 960, 1200, 1440, 1680, 1920, 2400, 2880]);
  });

  it("says when what sounds is not what is written, and gives it back to the tick", () => {
    const notes = [
      n(37, { length: 411, pitch: 60, velocity: 33 }),
      n(970, { length: 700, pitch: 62, velocity: 127 }),
      n(2000, { length: 1200, pitch: 64, velocity: 90 }),
    ];
    const back = readMusicXml(written(line(notes))).project;
    expect(
      back.patterns[0]!.parts[0]!.notes.map((one) => [
        one.start,
        one.length,
        one.pitch,
        one.velocity,
      ]),
    ).toEqual(notes.map((one) => [one.start, one.length, one.pitch, one.velocity]));
  });

  it("spells in the key, with its signature, modes included; signs only where the bar does not say them", () => {
    const keys = [
      [{ root: 2, scale: "dorian" }, 0, "dorian"],
      [{ root: 9, scale: "major" }, 3, "major"],
      [{ root: 3, scale: "major" }, -3, "major"],
      [{ root: 0, scale: "minor" }, -3, "minor"],
      [{ root: 4, scale: "phrygian" }, 0, "phrygian"],
      [{ root: 7, scale: "mixolydian" }, 0, "mixolydian"],
    ] as const;
    for (const [key, fifths, mode] of keys) {
      const text = written(line([n(0, { pitch: 60 + key.root })], key));
      expect(text).toContain(`<fifths>${fifths}</fifths><mode>${mode}</mode>`);
      expect(readMusicXml(text).project.key).toEqual(key);
    }
    const flat = written(
      line([n(0, { pitch: 63 }), n(960, { pitch: 63 }), n(1920, { pitch: 66 })], {
        root: 10,
        scale: "major",
      }),
    );
    expect(flat).toContain("<step>E</step><alter>-1</alter>");
    // E flat is in the signature; G flat or F sharp is not, and is marked once.
    expect(flat.match(/<accidental>/g)).toHaveLength(1);
  });

  it("has drums as unpitched percussion with a legend, each pad on its place", () => {
    let project = createProject({ bars: 1 });
    const hits = [0, 960, 1920, 2880].flatMap((at, i) => [
      n(at, { pitch: i % 2 ? 38 : 36, length: 100 }),
      n(at, { pitch: 42, length: 100 }),
      n(at + 480, { pitch: 42, length: 100 }),
    ]);
    project = edits.setNotes(project, DRUMS, hits);
    const text = written(project);
    expect(text).toContain("<sign>percussion</sign>");
    expect(text).toMatch(/<words>[^<]*Kick F4[^<]*G5 ×/);
    expect(text).toContain("<midi-unpitched>37</midi-unpitched>");
    const back = readMusicXml(text).project;
    expect(back.tracks[0]).toMatchObject({ kind: "drums" });
    const set = (list: readonly Note[]) => list.map((one) => `${one.start} ${one.pitch}`).sort();
    expect(set(back.patterns[0]!.parts[0]!.notes)).toEqual(set(hits));
  });

  it("has chords, tempo and metre, and the song's changes of them, there and back", () => {
    let project = line([n(0, { length: 960 }), n(4800, { length: 960 })], {
      root: 2,
      scale: "minor",
    });
    const chords: ChordMark[] = [
      { id: "c1", start: 0, name: "Dm7", inversion: 0, spread: "close" },
      { id: "c2", start: 3840, name: "Bbmaj7", inversion: 0, spread: "close" },
      { id: "c3", start: 5760, name: "C/E", inversion: 0, spread: "close" },
    ];
    project = { ...project, patterns: project.patterns.map((p) => ({ ...p, chords })) };
    project = edits.setTempo(project, 87.5);
    const song = [
      { id: "s", pattern: "a", times: 1 },
      { id: "t", pattern: "a", times: 1, tempo: 120, name: "Ebb" },
    ];
    const { project: back } = readMusicXml(written({ ...project, song }));
    expect(back.tempo).toBe(87.5);
    expect(back.song.map((entry) => entry.tempo ?? back.tempo)).toEqual([87.5, 120]);
    // A rehearsal mark names the section that begins there.
    expect(back.song.map(({ name }) => name)).toEqual([undefined, "Ebb"]);
    expect(back.patterns[0]!.chords!.map(({ start, name }) => [start, name]).slice(0, 3)).toEqual([
      [0, "Dm7"],
      [3840, "Bbmaj7"],
      [5760, "C/E"],
    ]);
    expect(playbackEvents(back, 0, 15_360, { loop: false }).map((e) => e.start)).toEqual([
      0, 4800, 7680, 12_480,
    ]);
  });

  it("of swung sixteenths is written straight and sounds swung", () => {
    const swung = grid(16, "straight", 57);
    expect(swung.swing).toBe(57);
    const notes = [0, 240, 480, 720].map((at, i) => n(at + (i % 2 ? 34 : 0), { length: 200 }));
    const text = written(line(notes));
    expect(text).not.toContain("<tuplet");
    expect(readMusicXml(text).project.patterns[0]!.parts[0]!.notes.map((one) => one.start)).toEqual(
      notes.map((one) => one.start),
    );
  });
});
