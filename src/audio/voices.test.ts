import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { seeded } from "@/core/base";
import { pitchHz } from "@/core/pitch";
import type { Shaping } from "@/core/sound";
import { createProject } from "@/core/score";
import { KITS } from "./kits/registry";
import { SOUNDS } from "./sounds";
import { fakeContext } from "./nodes.test-helper";
import { renderPad } from "./pads/render";
import type { Corner } from "./synth/curve-reader";
import type { VoiceCommand, VoicePlan } from "./synth/plan";
import { recordingPort } from "./thread.test-helper";
import { TrackBend } from "./track-bend";

const rendered = { render: () => Promise.resolve([]), sends: () => undefined };

/** An instrument of a sound, and what the audio thread is told of its voices. */
async function playing(sound: string, shaping: Shaping = {}) {
  const audio = fakeContext();
  const { fakePort, commands } = recordingPort();
  const project = edits.setShaping(
    edits.changeTrack(createProject(), "bass", { sound }),
    "bass",
    shaping,
  );
  const pitchBend = new TrackBend();
  const instrument = SOUNDS.find((s) => s.id === sound)!.make(audio.context, {
    port: fakePort,
    pitchBend,
    ...rendered,
  });
  instrument.update!(project.tracks[1]!);
  await instrument.ready!();
  const note = { time: 1, seconds: 0.5, pitch: 60, velocity: 100, pan: 0, tune: 0 };
  const listener = async () => Promise.resolve(commands as VoiceCommand[]);
  const begun = async () => (await listener()).filter((command) => command.type === "begin");
  const fades = async () => (await listener()).filter((command) => command.type === "fade");
  return { ...audio, pitchBend, instrument, note, listener, begun, fades };
}

const firstHz = ({ plan }: { plan: VoicePlan }) => plan.waves[0]!.hz;

describe("a line played with glide", () => {
  it("takes over the pitch of the note that has not ended, and of none that has", async () => {
    const { instrument, note, begun, fades } = await playing("keel-bass", { glide: 200 });
    instrument.noteOn(note);
    instrument.noteOn({ ...note, time: 1.4, pitch: 67 });
    instrument.noteOn({ ...note, time: 3, pitch: 72 });
    expect((await begun()).map(firstHz)).toEqual([
      pitchHz(60),
      [
        ["step", 0, pitchHz(60)],
        ["curved", 0.2, pitchHz(67)],
      ],
      pitchHz(72),
    ]);
    // The first gives way where the second takes over.
    const [, fakePort] = (await fades()).filter(({ id }) => id === 1);
    expect(fakePort!.at).toBe(1.4);
    expect(fakePort!.over).toBeLessThan(1.55);
  });

  it("begins the notes of a chord together, each from the note before", async () => {
    const { instrument, note, begun } = await playing("keel-bass", { glide: 200 });
    instrument.noteOn({ ...note, pitch: 50 });
    for (const pitch of [60, 64, 67]) instrument.noteOn({ ...note, time: 1.3, pitch });
    const starts = (await begun()).slice(1).map((one) => (firstHz(one) as Corner[])[0]![2]);
    expect(starts).toEqual([50, 50, 50].map((p) => pitchHz(p)));
  });

  it("is no line without glide: notes sound together", async () => {
    const { instrument, note, begun, fades } = await playing("keel-bass");
    instrument.noteOn(note);
    instrument.noteOn({ ...note, time: 1.4, pitch: 67 });
    expect((await begun()).map(firstHz)).toEqual([pitchHz(60), pitchHz(67)]);
    expect((await fades()).map(({ id }) => id)).toEqual([1, 2]);
    expect((await fades())[0]!.over).toBeGreaterThan(1.7);
  });
});

describe("voices", () => {
  it("sound 64 at once; the oldest gives way to one more, and what has died away counts no longer", async () => {
    const { instrument, note, fades } = await playing("keel-bass");
    for (let i = 0; i < 70; i++)
      instrument.hold({ ...note, time: 1 + i * 0.001, pitch: 30 + (i % 50) });
    expect((await fades()).map(({ id }) => id)).toEqual([1, 2, 3, 4, 5, 6]);

    const later = await playing("keel-bass");
    for (let i = 0; i < 300; i++)
      later.instrument.noteOn({ ...later.note, time: 1 + i, seconds: 0.2 });
    // Each ends by itself, none by another.
    expect((await later.fades()).map(({ over }, i) => over - i)).toEqual(
      Array.from({ length: 300 }, () => expect.closeTo(1.5, 5)),
    );
  });

  it("ring as long as the shape says", async () => {
    const rings = async (shaping: Shaping) => {
      const { instrument, note, fades } = await playing("sail-strings", shaping);
      instrument.noteOn(note);
      const [fade] = await fades();
      return fade!.over - fade!.at;
    };
    expect(await rings({ release: 4 })).toBeCloseTo(4 * (await rings({})), 6);
  });

  it("go through what shapes them, told once for each change, and without what a sound has no control for", async () => {
    const bodies = async (sound: string, shaping: Shaping) => {
      const { listener } = await playing(sound, shaping);
      return (await listener()).flatMap((command) =>
        command.type === "patch" ? [command.values] : [],
      );
    };
    const plain = { brightness: 0, body: 0, motion: 0, drive: 0, width: 0 };
    expect(await bodies("keel-bass", { width: 40, glide: 100 })).toEqual([{ ...plain, width: 40 }]);
    // A bass has no motion: what was set for another sound waits unheard.
    expect(await bodies("keel-bass", { motion: 80 })).toEqual([plain]);
    expect(await bodies("low-tide", { motion: 80 })).toEqual([{ ...plain, motion: 80 }]);
    const { instrument, listener } = await playing("keel-bass");
    const before = (await listener()).length;
    instrument.update!(edits.setShaping(createProject(), "bass", { release: 2 }).tracks[1]!);
    expect(await listener()).toHaveLength(before);
  });

  it("are bent by the hand and the curve, also those made while a hand bends", async () => {
    const { instrument, pitchBend, listener, context } = await playing("keel-bass");
    pitchBend.follow([
      { time: 1, by: 0 },
      { time: 2, by: 0 },
    ]);
    expect((await listener()).filter(({ type }) => type === "curve")).toEqual([]);
    pitchBend.follow([
      { time: 1, by: 0 },
      { time: 2, by: 2 },
    ]);
    pitchBend.bend(-1);
    expect((await listener()).slice(-2)).toEqual([
      {
        type: "curve",
        points: [
          { time: 1, by: 0, jump: true },
          { time: 2, by: 2, jump: false },
        ],
      },
      { type: "bend", by: -1 },
    ]);
    const other = SOUNDS.find(({ id }) => id === "low-tide")!;
    const { fakePort, commands } = recordingPort();
    const next = other.make(context, { port: fakePort, pitchBend, ...rendered });
    await next.ready!();
    expect(commands).toContainEqual({ type: "bend", by: -1 });
    instrument.dispose!();
    const before = (await listener()).length;
    pitchBend.rest();
    expect(await listener()).toHaveLength(before);
  });
});

describe("likes of a pad", () => {
  const job = (change: object) => ({
    kit: "harbour",
    pad: {
      ...edits.changePad(createProject(), "drums", 38, { tune: 1 }).tracks[0]!.kit!.pads[0]!,
      tune: 0,
      ...change,
    },
    whole: { pitch: 0, time: 1 },
    rate: 22_050,
  });
  const sound = (change: object) => renderPad(job(change), null)[0]!;
  const apart = (a: Float32Array, b: Float32Array) => {
    let off = 0;
    for (let i = 0; i < Math.min(a.length, b.length); i++)
      off = Math.max(off, Math.abs(a[i]! - b[i]!));
    return off;
  };

  it("are the same for the same number, and another sound for another", () => {
    expect(sound({ variant: 5 })).toEqual(sound({ variant: 5 }));
    expect(apart(sound({ variant: 5 }), sound({ variant: 6 }))).toBeGreaterThan(0.05);
    expect(apart(sound({ variant: 5 }), sound({}))).toBeGreaterThan(0.05);
  });

  it("come from another kit where the pad does", () => {
    const other = renderPad({ ...job({}), kit: "foghorn" }, null)[0]!;
    expect(sound({ from: "foghorn" })).toEqual(other);
  });

  it("are sound, never silent and never beyond full level, over every pad of every kit and hundreds of seeds", () => {
    for (const kit of KITS) {
      Object.entries(kit.pads).forEach(([pitch, pad], i) => {
        for (let seed = 1; seed <= 12; seed++) {
          const samples = pad.like(seeded(seed * 131 + i))(11_025);
          let peak = 0;
          for (const x of samples) peak = Math.max(peak, Math.abs(x));
          expect(Number.isFinite(peak), `${kit.id} ${pitch} ${seed}`).toBe(true);
          expect(peak).toBeGreaterThan(0.2);
          expect(peak).toBeLessThanOrEqual(1);
          expect(samples.length / 11_025).toBeLessThan(12);
        }
      });
    }
  });
});

describe("sounds", () => {
  it("are at least twenty melodic ones and eight kits, each with a name, a character and controls of its own", () => {
    const melodic = SOUNDS.filter(({ kind }) => kind === "melody");
    expect(melodic.length).toBeGreaterThanOrEqual(20);
    expect(KITS.length).toBeGreaterThanOrEqual(8);
    expect(new Set(SOUNDS.map(({ id }) => id)).size).toBe(SOUNDS.length);
    expect(new Set(SOUNDS.map(({ about }) => about)).size).toBe(SOUNDS.length);
    for (const { controls } of melodic) {
      expect(controls.length).toBeGreaterThanOrEqual(5);
      expect(new Set(controls).size).toBe(controls.length);
    }
    // All kits fill the same slots.
    const slots = KITS.map(({ pads }) => Object.keys(pads).join());
    expect(new Set(slots).size).toBe(1);
  });
});
