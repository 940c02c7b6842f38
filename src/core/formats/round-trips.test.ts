import * as edits from "../edits";
import { seeded } from "../base";
import { type Project, changePart, createProject, makeNote, makeTrack } from "../score";
import { Midi } from "@tonejs/midi";
import { describe, expect, it } from "vitest";
import { demoProjects } from "@/server/demo";
import { readMusicXml } from "./musicxml/read";
import { writeMusicXml } from "./musicxml/write";
import { readSmf } from "./smf/read";
import { writeSmf } from "./smf/write";

/** A project of random notes, no pitch over itself, with bends, levels and metres. */
function anyProject(seed: number, cell: number): Project {
  const random = seeded(seed);
  const whole = (most: number) => Math.floor(random() * most);
  const metre = [
    { beats: 4, unit: 4 },
    { beats: 7, unit: 8 },
    { beats: 3, unit: 4 },
  ][whole(3)]!;
  const bass = makeTrack({ id: "bass", kind: "melody", name: "Bass", sound: "reed-bass" });
  const kit = makeTrack({ id: "drums", kind: "drums", name: "Kit", sound: "harbour" });
  let project = createProject({ metre, bars: 2, tempo: 60 + whole(120), tracks: [kit, bass] });
  const length = project.patterns[0]!.parts[0]!.length;
  for (const [track, pitches] of [
    ["drums", [36, 38, 42]],
    ["bass", [40, 43, 47, 52]],
  ] as const) {
    const notes = pitches.flatMap((pitch) => {
      const own = [];
      for (let at = whole(4) * cell; at < length - 2 * cell; at += (2 + whole(6)) * cell) {
        const id = `${pitch}-${at}`;
        own.push(makeNote({ id, start: at, length: cell, pitch, velocity: 20 + whole(100) }));
      }
      return own;
    });
    project = edits.setNotes(project, { pattern: "a", track }, notes);
  }
  const bend = [0, 1, 2, 3].map((i) => ({
    tick: i * 480 + whole(200),
    value: whole(16_000) - 8000,
  }));
  return changePart(project, { pattern: "a", track: "bass" }, (part) => ({ ...part, bend }));
}

/** What a second reader hears: @tonejs/midi. */
function heard(bytes: Uint8Array) {
  const { header, tracks } = new Midi(bytes);
  return {
    tempos: header.tempos.map(({ ticks, bpm }) => [ticks, Number(bpm.toFixed(2))]),
    metres: header.timeSignatures.map(({ ticks, timeSignature }) => [ticks, ...timeSignature]),
    notes: tracks.flatMap((track) =>
      track.notes.map((note) => [
        ...[track.channel, note.ticks, note.durationTicks, note.midi],
        Math.round(note.velocity * 127),
      ]),
    ),
    bends: tracks.flatMap((track) =>
      track.pitchBends.map(({ ticks, value }) => ({ ticks, value })),
    ),
  };
}

describe("there and back", () => {
  it("MIDI, a project, MIDI: the same to a second reader, notes, tempo, metre and bends", () => {
    for (let seed = 0; seed < 60; seed++) {
      const first = writeSmf(anyProject(seed, 97));
      const [one, two] = [heard(first), heard(writeSmf(readSmf(first).project))];
      expect(two.notes).toEqual(one.notes);
      expect(two.tempos).toEqual(one.tempos);
      expect(two.metres).toEqual(one.metres);
      expect(one.bends.length).toBeGreaterThan(4);
      // The wheel stands where it stood, though perhaps by other steps.
      const at = (bends: typeof one.bends, tick: number) =>
        bends.findLast(({ ticks }) => ticks <= tick)?.value ?? 0;
      for (let tick = 0; tick < 3000; tick += 60)
        expect(
          Math.abs(at(two.bends, tick) - at(one.bends, tick)),
          `${seed} at ${tick}`,
        ).toBeLessThan(0.05);
    }
  });

  it("MusicXML, a project, MusicXML: the same text", () => {
    const projects = Array.from({ length: 20 }, (_, seed) => anyProject(seed, 240));
    for (const project of [...projects, ...demoProjects()]) {
      const once = writeMusicXml(project, {}).text;
      const { key } = readMusicXml(once).project;
      expect(key.root, project.name).toBe(project.key.root);
      const twice = writeMusicXml(readMusicXml(once).project, {}).text;
      const again = writeMusicXml(readMusicXml(twice).project, {}).text;
      expect(again, project.name).toBe(twice);
      const measures = (text: string) => text.match(/<measure /g)!.length;
      expect(measures(twice)).toBe(measures(once));
      // Which of several that begin together is written first is nobody's meaning.
      const pitches = (text: string) =>
        text.match(/<step>.<\/step>|<display-step>.<\/display-step>/g)!.sort();
      // A harmonic minor has no name among a score's modes, and comes back as minor.
      if (key.scale === project.key.scale) expect(pitches(twice)).toEqual(pitches(once));
      else expect(project.key.scale).toBe("harmonic minor");
    }
  });
});
