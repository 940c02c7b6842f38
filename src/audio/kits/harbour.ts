import { biquad, decay, metal, noise, render, sweep } from "../dsp";
import type { Kit, Pad } from "./kit";

const TAU = 2 * Math.PI;

const kick =
  (from: number, to: number, fall: number, ring: number, peak: number): Pad =>
  (rate) => {
    const body = sweep(from, to, fall);
    const click = noise(3);
    return render(rate, ring * 5, peak, (t) => {
      const drive = Math.tanh(2.2 * body(t) * decay(t, ring));
      return drive + 0.5 * click() * decay(t, 0.0018);
    });
  };

const snare =
  (tone: number, ring: number, wires: number, dark: number, peak: number): Pad =>
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
  };

const cymbal =
  (base: number, ring: number, cut: number, hiss: number, seconds: number, peak: number): Pad =>
  (rate) => {
    const ringing = metal(base);
    const air = noise(23);
    const high = biquad("highpass", rate, cut, 0.9);
    const band = biquad("bandpass", rate, cut * 1.35, 0.8);
    return render(rate, seconds, peak, (t) => {
      const strike = 1 + 1.4 * decay(t, 0.004);
      return strike * decay(t, ring) * (high(0.7 * ringing(t) + hiss * air()) + 0.5 * band(air()));
    });
  };

const tom =
  (hz: number, peak: number): Pad =>
  (rate) => {
    const body = sweep(hz * 1.7, hz, 0.03);
    const skin = noise(31);
    const low = biquad("lowpass", rate, hz * 9, 0.7);
    return render(
      rate,
      0.8,
      peak,
      (t) => body(t) * decay(t, 0.17) + 0.6 * low(skin()) * decay(t, 0.02),
    );
  };

const knock =
  (hz: number, second: number, ring: number, peak: number): Pad =>
  (rate) => {
    const tick = noise(41);
    return render(rate, 0.2, peak, (t) => {
      const wood = Math.sin(TAU * hz * t) + 0.6 * Math.sin(TAU * hz * second * t);
      return wood * decay(t, ring) + 0.7 * tick() * decay(t, 0.0012);
    });
  };

const clap: Pad = (rate) => {
  const hands = noise(53);
  const band = biquad("bandpass", rate, 1250, 1.1);
  return render(rate, 0.4, 0.88, (t) => {
    const bursts = [0, 0.011, 0.021].reduce(
      (sum, at) => sum + (t >= at ? decay(t - at, 0.0035) : 0),
      0,
    );
    return band(hands()) * (bursts + (t > 0.03 ? 0.8 * decay(t - 0.03, 0.07) : 0));
  });
};

const shaken =
  (cut: number, ring: number, jingle: number, peak: number): Pad =>
  (rate) => {
    const grains = noise(61);
    const high = biquad("highpass", rate, cut, 1.2);
    const bells = metal(2310);
    return render(rate, 0.3, peak, (t) => {
      const wave = Math.min(1, 0.35 + t / 0.006) * decay(t, ring);
      return wave * high(grains() + jingle * bells(t));
    });
  };

const bell: Pad = (rate) => {
  const band = biquad("bandpass", rate, 900, 1.4);
  return render(rate, 0.5, 0.5, (t) => {
    const tones = Math.sign(Math.sin(TAU * 563 * t)) + Math.sign(Math.sin(TAU * 841 * t));
    return band(tones) * (0.7 * decay(t, 0.03) + 0.3 * decay(t, 0.13));
  });
};

/** Round kick, papery snare, short bright hats: a dry small kit. */
export const harbour: Kit = {
  pads: {
    35: kick(120, 38, 0.05, 0.26, 0.84),
    36: kick(190, 47, 0.028, 0.145, 0.82),
    37: knock(1720, 1.47, 0.016, 0.78),
    38: snare(182, 0.1, 0.15, 1400, 0.95),
    39: clap,
    40: snare(224, 0.055, 0.075, 2300, 0.72),
    42: cymbal(412, 0.044, 7200, 0.5, 0.22, 0.62),
    44: cymbal(398, 0.026, 6400, 0.4, 0.13, 0.52),
    45: tom(92, 0.85),
    46: cymbal(412, 0.23, 6900, 0.5, 1, 0.56),
    47: tom(128, 0.82),
    49: cymbal(318, 0.62, 4300, 0.9, 2.6, 0.55),
    50: tom(176, 0.8),
    51: cymbal(521, 0.42, 5200, 0.15, 1.8, 0.48),
    54: shaken(6200, 0.075, 0.8, 0.6),
    56: bell,
    70: shaken(5200, 0.045, 0, 0.6),
    75: knock(2480, 1.02, 0.024, 0.62),
  },
  chokes: [[42, 44, 46]],
};
