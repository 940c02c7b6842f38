import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { type PadShape, createProject, plainPad } from "@/core/score";
import { drums } from "../drums";
import { KITS, kitOf } from "../kits/registry";
import { padFor } from "../kits/kit";
import { recordingPort } from "../thread.test-helper";
import { jobKey, renderPad, type PadJob, type PadRenderer } from "./render";
import { resample, shapeSound } from "./shape";
import { stretchSound } from "./stretch";

const RATE = 44_100;
const PLAIN = { pitch: 0, time: 1 };
const sine = (hz: number, seconds: number, rate = RATE) =>
  Float32Array.from({ length: Math.round(rate * seconds) }, (_, i) =>
    Math.sin((2 * Math.PI * hz * i) / rate),
  );
const shape = (change: Partial<PadShape>): PadShape => ({ ...plainPad(36), ...change });
const shaped = (sound: Float32Array, change: Partial<PadShape>, kit = PLAIN) =>
  shapeSound([sound], RATE, shape(change), kit)[0]!;

/** Energy at a frequency (a single bin of the Fourier transform, Hann window). */
function energyAt(sound: Float32Array, hz: number, rate = RATE): number {
  let [re, im] = [0, 0];
  for (let i = 0; i < sound.length; i++) {
    const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / sound.length);
    re += w * sound[i]! * Math.cos((2 * Math.PI * hz * i) / rate);
    im += w * sound[i]! * Math.sin((2 * Math.PI * hz * i) / rate);
  }
  return re * re + im * im;
}
/** The loudest frequency between two, found in steps of a tenth of a semitone. */
function peakHz(sound: Float32Array, from: number, to: number): number {
  const piece = sound.subarray(0, 12_288);
  let [best, most] = [from, 0];
  for (let hz = from; hz <= to; hz *= 2 ** (1 / 120)) {
    const energy = energyAt(piece, hz);
    if (energy > most) [best, most] = [hz, energy];
  }
  return best;
}
const rms = (sound: Float32Array, from = 0, to = sound.length) => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += sound[i]! ** 2;
  return Math.sqrt(sum / (to - from));
};

describe("kits", () => {
  it("are at least five, of sixteen pads or more on General MIDI percussion keys, the same in all", () => {
    // Source: General MIDI System Level 1, Percussion Key Map (keys 35–81, channel 10).
    expect(KITS.length).toBeGreaterThanOrEqual(5);
    const slots = Object.keys(KITS[0]!.pads).map(Number);
    expect(slots.length).toBeGreaterThanOrEqual(16);
    for (const slot of slots) expect(slot >= 35 && slot <= 81).toBe(true);
    for (const kit of KITS) {
      expect(Object.keys(kit.pads).map(Number)).toEqual(slots);
      expect(kit.about.length).toBeGreaterThan(20);
      for (let pitch = 0; pitch <= 127; pitch++) expect(slots).toContain(padFor(kit, pitch));
    }
    expect(new Set(KITS.map((kit) => kit.about)).size).toBe(KITS.length);
    expect(kitOf("gone")).toBe(KITS[0]);
  });

  for (const kit of KITS) {
    it(`${kit.label}: every pad begins at once, never clips, ends in silence, is the same each time`, () => {
      for (const [slot, pad] of Object.entries(kit.pads)) {
        const samples = pad(RATE);
        const peak = samples.reduce((most, s) => Math.max(most, Math.abs(s)), 0);
        expect(peak).toBeLessThanOrEqual(1);
        expect(peak, `pad ${slot}`).toBeGreaterThan(0.3);
        // A tenth of the peak is reached within a millisecond.
        const onset = samples.findIndex((s) => Math.abs(s) > peak / 10);
        expect(onset / RATE, `pad ${slot}`).toBeLessThan(0.001);
        expect(Math.abs(samples.at(-1)!)).toBeLessThan(0.001);
        expect(samples.every(Number.isFinite)).toBe(true);
      }
      expect(kit.pads[38]!(RATE)).toEqual(kit.pads[38]!(RATE));
    });
  }

  it("sound clearly unlike one another: kick, snare and hat differ in every pair of kits", () => {
    const bands = [60, 120, 250, 500, 1000, 2000, 4000, 8000, 12_000];
    const profile = (kit: (typeof KITS)[number], slot: number) => {
      const sound = kit.pads[slot]!(RATE).slice(0, RATE / 4);
      const levels = bands.map((hz) => 10 * Math.log10(energyAt(sound, hz) + 1e-9));
      return [...levels, (20 * sound.findLastIndex((s) => Math.abs(s) > 0.05)) / RATE];
    };
    for (const slot of [36, 38, 42]) {
      KITS.forEach((a, i) =>
        KITS.slice(i + 1).forEach((b) => {
          const [x, y] = [profile(a, slot), profile(b, slot)];
          const apart = Math.hypot(...x.map((v, k) => v - y[k]!)) / Math.sqrt(x.length);
          expect(apart, `${a.id} and ${b.id}, pad ${slot}`).toBeGreaterThan(3);
        }),
      );
    }
  });
});

describe("a pad's shape", () => {
  it("moves the spectral peak with its pitch, and the kit's", () => {
    const tone = sine(440, 1);
    for (const tune of [-12, -5, 3, 7, 12]) {
      const wanted = 440 * 2 ** (tune / 12);
      const found = peakHz(shaped(tone, { tune }), wanted * 0.8, wanted * 1.25);
      expect(Math.abs(found / wanted - 1)).toBeLessThan(0.01);
      const byKit = shaped(tone, {}, { pitch: tune, time: 1 });
      expect(Math.abs(peakHz(byKit, wanted * 0.8, wanted * 1.25) / wanted - 1)).toBeLessThan(0.01);
    }
    // A kick of a kit, rendered whole: its lasting tone follows too.
    const job = (tune: number): PadJob => ({
      kit: "signal",
      pad: { ...plainPad(45), tune },
      whole: PLAIN,
      rate: RATE,
    });
    const at = (tune: number) => peakHz(renderPad(job(tune), null)[0]!, 60, 260);
    expect(at(0) / 110).toBeCloseTo(1, 1);
    expect(at(7) / at(0) / 2 ** (7 / 12)).toBeCloseTo(1, 1);
  });

  it("stretches length and not pitch, both within 3 %", () => {
    for (const hz of [110, 440, 1500]) {
      for (const factor of [0.5, 0.8, 1.5, 2, 3.7]) {
        const tone = sine(hz, 0.8);
        const after = shaped(tone, { stretch: factor });
        expect(Math.abs(after.length / (tone.length * factor) - 1)).toBeLessThan(0.03);
        const found = peakHz(after, hz * 0.8, hz * 1.25);
        expect(Math.abs(found / hz - 1), `${hz} Hz × ${factor}`).toBeLessThan(0.03);
        // Frames that fit one another lose no level.
        const middle = [Math.round(after.length * 0.2), Math.round(after.length * 0.8)] as const;
        expect(rms(after, ...middle)).toBeGreaterThan(0.6);
      }
    }
    const kit = shaped(sine(300, 0.5), {}, { pitch: 0, time: 2 });
    expect(kit.length / RATE).toBeCloseTo(1, 2);
  });

  it("keeps the attack of a stretched hit where it was, once", () => {
    const hit = Float32Array.from(
      { length: RATE / 2 },
      (_, i) => Math.sin((2 * Math.PI * 180 * i) / RATE) * Math.exp(-i / (0.06 * RATE)),
    );
    const long = stretchSound([hit], RATE, 2)[0]!;
    expect([...long.slice(0, 400)]).toEqual([...hit.slice(0, 400)]);
    expect(rms(long, RATE / 2, long.length)).toBeLessThan(0.02);
    expect(stretchSound([hit], RATE, 1)[0]).toEqual(hit);
    expect(stretchSound([hit.slice(0, 50)], RATE, 2)[0]).toHaveLength(100);
  });

  it("filters 3 dB down at the cutoff, within a third of an octave", () => {
    // Source: R. Bristow-Johnson, Audio EQ Cookbook: at Q = 1/√2 low- and highpass are 3 dB down at their
    // frequency. (The Web Audio API takes that Q in dB; the resonance here is a plain ratio.)
    for (const cutoff of [120, 900, 5000]) {
      for (const filter of ["lowpass", "highpass"] as const) {
        const gain = (hz: number) => {
          const after = shaped(sine(hz, 0.4), { filter, cutoff, resonance: Math.SQRT1_2 });
          return 20 * Math.log10((rms(after, RATE / 5) || 1e-9) / Math.SQRT1_2);
        };
        let corner = 0;
        for (let hz = cutoff / 2; hz <= cutoff * 2; hz *= 2 ** (1 / 24)) {
          const down = gain(hz) <= -3.0103;
          if (filter === "lowpass" ? down : !down) {
            corner = hz;
            break;
          }
        }
        expect(Math.abs(Math.log2(corner / cutoff))).toBeLessThan(1 / 3);
        // An octave into the stop band a second-order filter has fallen by about 12 dB.
        const far = gain(filter === "lowpass" ? cutoff * 2 : cutoff / 2);
        expect(far).toBeLessThan(-10);
      }
    }
    const ring = (resonance: number) =>
      rms(shaped(sine(1000, 0.4), { filter: "lowpass", cutoff: 1000, resonance }), RATE / 5);
    expect(ring(8) / ring(1)).toBeCloseTo(8, 0);
  });

  it("starts later, dies sooner, and saturates without getting louder than full scale", () => {
    const ramp = Float32Array.from({ length: RATE }, (_, i) => i / RATE);
    expect(shaped(ramp, { start: 250 })[0]).toBeCloseTo(0.25, 4);
    expect(shaped(ramp, { start: 600_000 }).length).toBe(Math.round(RATE * 0.005));
    const short = shaped(sine(500, 1), { decay: 200 });
    expect(short.length / RATE).toBeCloseTo(0.2, 3);
    const half = rms(short, 4190, 4631) / rms(short, 0, 441);
    // Half of the time is half of the 60 dB.
    expect(20 * Math.log10(half)).toBeGreaterThan(-32);
    expect(20 * Math.log10(half)).toBeLessThan(-26);
    const loud = shaped(sine(200, 0.2), { drive: 100 });
    expect(Math.max(...loud)).toBeLessThanOrEqual(1);
    expect(rms(loud)).toBeGreaterThan(0.9);
    // Odd harmonics appear, even ones do not: the curve is odd.
    expect(energyAt(loud, 600)).toBeGreaterThan(1000 * energyAt(loud, 400));
  });

  it("leaves a plain pad exactly as the kit has it, in stereo too", () => {
    const [left, right] = [sine(300, 0.1), sine(500, 0.1)];
    expect(shapeSound([left, right], RATE, plainPad(36), PLAIN)).toEqual([left, right]);
    expect(shapeSound([left, right], RATE, shape({ tune: 2, stretch: 2 }), PLAIN)).toHaveLength(2);
    expect(resample(left, 1)).toEqual(left);
  });
});

describe("jobs", () => {
  it("differ by what is heard and by nothing else", () => {
    const job = (change: Partial<PadShape>, kit = "harbour"): PadJob => ({
      kit,
      pad: shape(change),
      whole: PLAIN,
      rate: RATE,
    });
    const plain = jobKey(job({}));
    for (const silent of [{ level: -6 }, { pan: 1 }, { choke: 3 }, { cutoff: 90 }]) {
      expect(jobKey(job(silent))).toBe(plain);
    }
    const sample = { id: "a".repeat(32), name: "x" };
    for (const heard of [{ tune: 1 }, { start: 5 }, { decay: 90 }, { sample }]) {
      expect(jobKey(job(heard))).not.toBe(plain);
    }
    expect(jobKey(job({}, "signal"))).not.toBe(plain);
    // A pad's own sample stays when the kit is swapped.
    expect(jobKey(job({ sample }, "signal"))).toBe(jobKey(job({ sample })));
  });
});

describe("a kit that is swapped", () => {
  /** A kit, what it plays with which sound, and what it ends. */
  function playing(render: PadRenderer) {
    const { fakePort, commands } = recordingPort();
    const context = { sampleRate: 8000, currentTime: 0 } as BaseAudioContext;
    const kit = drums(context, { port: fakePort, render, sends: () => undefined });
    /** Hits since the beginning, with the length of what their pad had then. */
    const played = () => {
      const sounds = new Map<number, number>();
      return commands.flatMap((command) => {
        if (command.type === "sound") sounds.set(command.pad, command.channels[0]!.length);
        return command.type === "hit"
          ? [{ at: command.time, length: sounds.get(command.pad)! }]
          : [];
      });
    };
    const ended = () => commands.flatMap((command) => (command.type === "end" ? [command] : []));
    const sounds = () => commands.filter(({ type }) => type === "sound").length;
    return { kit, played, ended, sounds };
  }

  it("plays the old sound until the new one is there, and renders only the newest wish", async () => {
    const asked: PadJob[] = [];
    const render = async (job: PadJob) => {
      asked.push(job);
      await Promise.resolve();
      return [new Float32Array(job.kit === "harbour" ? 10 : 20)];
    };
    const { kit, played, ended, sounds } = playing(render);
    const track = createProject().tracks[0]!;
    const hit = { time: 1, seconds: 1, pitch: 36, velocity: 100, pan: 0, tune: 0 };
    kit.update!(track);
    kit.noteOn(hit);
    expect(played()).toEqual([]);
    await kit.ready!();
    kit.noteOn(hit);
    kit.update!({ ...track, sound: "foghorn" });
    kit.noteOn({ ...hit, time: 2 });
    await kit.ready!();
    kit.noteOn({ ...hit, time: 3 });
    expect(played().map((p) => p.length)).toEqual([10, 10, 20]);
    // What the audio thread has already is not sent again.
    expect(sounds()).toBe(2);

    const before = asked.length;
    let project = createProject();
    for (let tune = 1; tune <= 12; tune++) {
      project = edits.changePad(project, "drums", 36, { tune });
      kit.update!({ ...project.tracks[0]!, sound: "foghorn" });
    }
    await kit.ready!();
    expect(ended()).toEqual([]);
    for (let i = 0; i < 20; i++) kit.noteOn({ ...hit, time: 10 + i / 50 });
    // Of a long roll the oldest hits are let go, each as a newer one comes.
    expect(ended().length).toBeGreaterThanOrEqual(12);
    expect(ended()[0]!.at).toBeGreaterThanOrEqual(10);

    const tunes = asked.slice(before).map((job) => job.pad.tune);
    expect(tunes.length).toBeLessThanOrEqual(2);
    expect(tunes.at(-1)).toBe(12);
  });

  it("plays all others where a pad could not be made, and makes it at the next start", async () => {
    let failing = true;
    const render = (job: PadJob) =>
      failing && job.pad.pitch === 36
        ? Promise.reject(new Error("out of memory"))
        : Promise.resolve([new Float32Array(job.pad.pitch)]);
    const { kit, played } = playing(render);
    kit.update!(createProject().tracks[0]!);
    await kit.ready!();
    const hit = { time: 1, seconds: 1, velocity: 100, pan: 0, tune: 0 };
    const lengths = () => {
      const before = played().length;
      for (const pitch of [36, 38]) kit.noteOn({ ...hit, pitch });
      return played()
        .slice(before)
        .map((one) => one.length);
    };
    expect(lengths()).toEqual([38]);
    await kit.ready!();
    expect(lengths()).toEqual([38]);
    failing = false;
    await kit.ready!();
    expect(lengths()).toEqual([36, 38]);
  });
});
