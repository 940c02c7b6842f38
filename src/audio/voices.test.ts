import { describe, expect, it } from "vitest";
import { createProject, edits, pitchHz, type Shaping } from "@/core";
import { KITS } from "./kits/registry";
import { seeded } from "@/core/random";
import { SOUNDS } from "./sounds";
import { fakeContext, type FakeNode } from "./nodes.test-helper";
import { renderPad } from "./pads/render";

/** An instrument of a sound in an audio graph that is written down. */
function playing(sound: string, shaping: Shaping = {}) {
  const audio = fakeContext();
  const project = edits.setShaping(
    edits.changeTrack(createProject(), "bass", { sound }),
    "bass",
    shaping,
  );
  const instrument = SOUNDS.find((s) => s.id === sound)!.make(audio.context, {} as AudioNode, {
    wheel: null,
    render: () => Promise.resolve([]),
    send: () => ({}) as AudioNode,
  });
  instrument.update!(project.tracks[1]!);
  const note = { time: 1, seconds: 0.5, pitch: 60, velocity: 100, pan: 0, tune: 0 };
  const oscillators = () => audio.of("Oscillator");
  return { ...audio, instrument, note, oscillators };
}

const pitches = (nodes: readonly FakeNode[]) =>
  nodes.map((node) => node.param("frequency").asked.map(({ how, value }) => [how, value] as const));

describe("a line played with glide", () => {
  it("takes over the pitch of the note that has not ended, and of none that has", () => {
    const { instrument, note, oscillators } = playing("keel-bass", { glide: 200 });
    instrument.trigger(note);
    instrument.trigger({ ...note, time: 1.4, pitch: 67 });
    instrument.trigger({ ...note, time: 3, pitch: 72 });
    const fundamentals = pitches(oscillators()).filter((_, i) => i % 3 === 0);
    expect(fundamentals[0]).toEqual([["set", pitchHz(60)]]);
    expect(fundamentals[1]).toEqual([
      ["set", pitchHz(60)],
      ["exponential", pitchHz(67)],
    ]);
    expect(fundamentals[2]).toEqual([["set", pitchHz(72)]]);
    // The first gives way where the second takes over.
    expect(oscillators()[0]!.stopped).toBeLessThan(1.55);
  });

  it("begins the notes of a chord together, each from the note before", () => {
    const { instrument, note, oscillators } = playing("keel-bass", { glide: 200 });
    instrument.trigger({ ...note, pitch: 50 });
    for (const pitch of [60, 64, 67]) instrument.trigger({ ...note, time: 1.3, pitch });
    const starts = pitches(oscillators())
      .filter((_, i) => i % 3 === 0)
      .map((asked) => asked[0]![1]);
    expect(starts).toEqual([50, 50, 50, 50].map((p) => pitchHz(p)));
  });

  it("is no line without glide: notes sound together", () => {
    const { instrument, note, oscillators } = playing("keel-bass");
    instrument.trigger(note);
    instrument.trigger({ ...note, time: 1.4, pitch: 67 });
    expect(pitches(oscillators()).every((asked) => asked.length === 1)).toBe(true);
    expect(oscillators()[0]!.stopped).toBeGreaterThan(1.7);
  });
});

describe("voices", () => {
  it("sound 64 at once; the oldest gives way to one more, and what has died away counts no longer", () => {
    const { instrument, note, oscillators } = playing("keel-bass");
    for (let i = 0; i < 70; i++)
      instrument.hold({ ...note, time: 1 + i * 0.001, pitch: 30 + (i % 50) });
    const first = (i: number) => oscillators()[3 * i]!;
    const ended = Array.from({ length: 70 }, (_, i) => first(i).stopped !== null);
    expect(ended.filter(Boolean)).toHaveLength(6);
    expect(ended.slice(0, 6).every(Boolean)).toBe(true);

    const later = playing("keel-bass");
    for (let i = 0; i < 300; i++)
      later.instrument.trigger({ ...later.note, time: 1 + i, seconds: 0.2 });
    // Each ends by itself, none by another.
    expect(
      later
        .oscillators()
        .filter((_, i) => i % 3 === 0)
        .map((n, i) => n.stopped! - i),
    ).toEqual(Array.from({ length: 300 }, () => expect.closeTo(1.5, 5)));
  });

  it("ring as long as the shape says, and are held where they are when let go in the attack", () => {
    const stopped = (shaping: Shaping) => {
      const { instrument, note, oscillators } = playing("sail-strings", shaping);
      instrument.trigger(note);
      // Not what all notes tremble with, which goes on.
      return oscillators().find((node) => node.stopped !== null)!.stopped!;
    };
    expect(stopped({ release: 4 }) - 1.5).toBeCloseTo(4 * (stopped({}) - 1.5), 6);
    const asked = (seconds: number, shaping: Shaping) => {
      const { instrument, note, of } = playing("sail-strings", shaping);
      instrument.trigger({ ...note, seconds });
      return of("Gain").flatMap((node) =>
        node.param("gain").asked.filter(({ how }) => how === "hold"),
      );
    };
    expect(asked(0.15, { attack: 8 }).map(({ time }) => time)).toEqual([expect.closeTo(1.15, 6)]);
    expect(asked(3, { attack: 8 })).toEqual([]);
  });

  it("make nothing of the body until a value of it is not plain", () => {
    const plain = playing("keel-bass", { glide: 100, release: 2 });
    expect(plain.of("Delay")).toEqual([]);
    const wide = playing("keel-bass", { width: 40 });
    expect(wide.of("Delay").length).toBeGreaterThan(0);
    // What a sound has no control for waits unheard: a bass has no motion.
    expect(playing("keel-bass", { motion: 80 }).of("Delay")).toEqual([]);
    expect(playing("low-tide", { motion: 80 }).of("Delay")).toHaveLength(2);
    // Brightness reaches the filters of voices as cents.
    const bright = playing("winch-bass", { brightness: 50 });
    bright.instrument.trigger(bright.note);
    const [cents] = bright.of("ConstantSource");
    expect(cents!.param("offset").value).toBe(1200);
    const filter = bright.of("BiquadFilter").find((node) => node.param("Q").value === 7)!;
    expect(cents!.to).toContain(filter.param("detune"));
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
