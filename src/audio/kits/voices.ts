import { biquad, decay, metal, noise, render, sweep } from "../dsp";
import { varied, type Pad, type Render } from "./kit";
import type { Hertz, Seconds } from "@/core/base";

const TAU = 2 * Math.PI;

/** A sine that falls from one pitch to another through soft saturation, with a click. */
export const kick = varied(
  (from: number, to: number, fall: number, ring: number, peak: number): Render =>
    (rate) => {
      const body = sweep(from, to, fall);
      const click = noise(3);
      return render(rate, ring * 5, peak, (t) => {
        const drive = Math.tanh(2.2 * body(t) * decay(t, ring));
        return drive + 0.5 * click() * decay(t, 0.0018);
      });
    },
  [0.35, 0.2, 0.5, 0.5, 0],
);

/** A skin of two tones and the rattle of wires. */
export const snare = varied(
  (tone: number, ring: number, wires: number, dark: number, peak: number): Render =>
    (rate) => {
      const rattle = noise(11);
      const high = biquad("highpass", rate, dark, 0.7);
      const body = sweep(tone * 1.6, tone, 0.012);
      return render(rate, 0.45, peak, (t) => {
        const skin =
          0.9 * body(t) * decay(t, ring) +
          0.35 * Math.sin(TAU * tone * 1.83 * t) * decay(t, ring * 0.6);
        return skin + 0.8 * high(rattle()) * decay(t, wires);
      });
    },
  [0.2, 0.5, 0.5, 0.4, 0],
);

/** Square waves without a common pitch and air, cut from below. */
export const cymbal = varied(
  (base: number, ring: number, cut: number, hiss: number, seconds: Seconds, peak: number): Render =>
    (rate) => {
      const ringing = metal(base);
      const air = noise(23);
      const high = biquad("highpass", rate, cut, 0.9);
      const band = biquad("bandpass", rate, cut * 1.35, 0.8);
      return render(rate, seconds, peak, (t) => {
        const strike = 1 + 1.4 * decay(t, 0.004);
        return (
          strike * decay(t, ring) * (high(0.7 * ringing(t) + hiss * air()) + 0.5 * band(air()))
        );
      });
    },
  [0.25, 0.5, 0.25, 0.6, 0.2, 0],
);

/** A falling tone with a short thud of skin. */
export const tom = varied(
  (hz: Hertz, peak: number, ring: number | undefined = 0.17): Render =>
    (rate) => {
      const body = sweep(hz * 1.7, hz, 0.03);
      const skin = noise(31);
      const low = biquad("lowpass", rate, hz * 9, 0.7);
      return render(
        rate,
        ring * 4.7,
        peak,
        (t) => body(t) * decay(t, ring) + 0.6 * low(skin()) * decay(t, 0.02),
      );
    },
  [0.25, 0, 0.4],
);

/** Two short wooden tones. */
export const knock = varied(
  (hz: Hertz, second: number, ring: number, peak: number): Render =>
    (rate) => {
      const tick = noise(41);
      return render(rate, 0.2, peak, (t) => {
        const wood = Math.sin(TAU * hz * t) + 0.6 * Math.sin(TAU * hz * second * t);
        return wood * decay(t, ring) + 0.7 * tick() * decay(t, 0.0012);
      });
    },
  [0.35, 0.3, 0.5, 0],
);

/** Three bursts of filtered noise and a tail. */
export const clap = varied(
  (tone: number, tail: Seconds, peak: number): Render =>
    (rate) => {
      const hands = noise(53);
      const band = biquad("bandpass", rate, tone, 1.1);
      return render(rate, 0.1 + tail * 4.3, peak, (t) => {
        const bursts = [0, 0.011, 0.021].reduce(
          (sum, at) => sum + (t >= at ? decay(t - at, 0.0035) : 0),
          0,
        );
        return band(hands()) * (bursts + (t > 0.03 ? 0.8 * decay(t - 0.03, tail) : 0));
      });
    },
  [0.3, 0.5, 0],
);

/** Grains that swell for an instant, with bells or without. */
export const shaken = varied(
  (cut: number, ring: number, jingle: number, peak: number): Render =>
    (rate) => {
      const grains = noise(61);
      const high = biquad("highpass", rate, cut, 1.2);
      const bells = metal(2310);
      return render(rate, 0.3, peak, (t) => {
        const wave = Math.min(1, 0.35 + t / 0.006) * decay(t, ring);
        return wave * high(grains() + jingle * bells(t));
      });
    },
  [0.3, 0.5, 0.6, 0],
);

/** Two square tones through a band. */
export const bell = varied(
  (low: Hertz, high: Hertz, ring: number, peak: number): Render =>
    (rate) => {
      const band = biquad("bandpass", rate, 1.6 * low, 1.4);
      return render(rate, ring * 4, peak, (t) => {
        const tones = Math.sign(Math.sin(TAU * low * t)) + Math.sign(Math.sin(TAU * high * t));
        return band(tones) * (0.7 * decay(t, 0.03) + 0.3 * decay(t, ring));
      });
    },
  [0.3, 0.3, 0.5, 0],
);

/** A tone bent by another (frequency modulation) that dies away: `depth` makes it from sine to metal. */
export const struck = varied(
  (
    hz: Hertz,
    ratio: number,
    depth: number,
    ring: number,
    peak: number,
    fall: number | undefined = 1,
  ): Render =>
    (rate) => {
      const body = sweep(hz * fall, hz, 0.02);
      return render(rate, ring * 5, peak, (t) => {
        const bend = depth * decay(t, ring * 0.5) * Math.sin(TAU * hz * ratio * t);
        const tone = depth === 0 ? body(t) : Math.sin(TAU * hz * t + bend);
        return tone * decay(t, ring);
      });
    },
  [0.3, 0.3, 0.5, 0.5, 0, 0.3],
);

/** Noise through a band that may fall, with an edge of its own: bursts, sprays and steam. */
export const burst = varied(
  (
    from: number,
    width: number,
    ring: number,
    peak: number,
    gate: number | undefined = Infinity,
  ): Render =>
    (rate) => {
      const air = noise(71);
      const band = biquad("bandpass", rate, from, width);
      return render(rate, Math.min(gate + 0.02, ring * 5), peak, (t) => {
        const strike = 1 + 2 * decay(t, 0.003);
        return t > gate ? 0 : strike * band(air()) * decay(t, ring);
      });
    },
  [0.4, 0.5, 0.5, 0, 0.3],
);

/** Two pads at once, at a balance. */
export const both = varied(
  (one: Pad, other: Pad, share: number, peak: number): Render =>
    (rate) => {
      const [a, b] = [one(rate), other(rate)];
      const length = Math.max(a.length, b.length);
      return render(rate, length / rate, peak, (_, i) => {
        return (a[i] ?? 0) * (1 - share) + (b[i] ?? 0) * share;
      });
    },
  [0, 0, 0.25, 0],
);

/** A pad heard in a wooden room: a dense tail of echoes that grows darker. */
export const roomy = varied(
  (pad: Pad, seconds: Seconds, wet: number, peak: number): Render =>
    (rate) => {
      const dry = pad(rate);
      const total = dry.length / rate + seconds;
      const low = biquad("lowpass", rate, 2600, 0.6);
      // Comb echoes at lengths without a common measure (Schroeder's reverberator, from memory).
      const combs = [0.0297, 0.0371, 0.0411, 0.0437].map((s) => ({
        line: new Float32Array(Math.round(s * rate)),
        back: 10 ** ((-3 * s) / seconds),
      }));
      return render(rate, total, peak, (_, i) => {
        const x = dry[i] ?? 0;
        let sum = 0;
        for (const { line, back } of combs) {
          const at = i % line.length;
          const echo = line[at]!;
          line[at] = x + echo * back;
          sum += echo;
        }
        return x + (wet * low(sum)) / combs.length;
      });
    },
  [0, 0.4, 0.3, 0],
);

/** A pad with its samples held and its levels counted coarsely, as if through cheap tin. */
export const crushed = varied(
  (pad: Pad, hold: number, levels: number, peak: number): Render =>
    (rate) => {
      const clean = pad(rate);
      const step = Math.max(1, Math.round((hold * rate) / 44_100));
      return render(rate, clean.length / rate, peak, (_, i) => {
        return Math.round((clean[i - (i % step)] ?? 0) * levels) / levels;
      });
    },
  [0, 0.5, 0.4, 0],
);

/** A pad through hard saturation. */
export const driven = varied(
  (pad: Pad, gain: number, peak: number): Render =>
    (rate) => {
      const clean = pad(rate);
      return render(rate, clean.length / rate, peak, (_, i) => Math.tanh(gain * (clean[i] ?? 0)));
    },
  [0, 0.4, 0],
);
