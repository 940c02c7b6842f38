/** What can be heard in samples, measured. */

/** Frequency, in Hz, and power of samples there (Goertzel), through a Hann window. */
export function powerAt(samples: Float32Array, rate: number, hz: number): number {
  const n = samples.length;
  const c = 2 * Math.cos((2 * Math.PI * hz) / rate);
  let [s1, s2] = [0, 0];
  for (let i = 0; i < n; i++) {
    const hann = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / n);
    [s1, s2] = [samples[i]! * hann + c * s1 - s2, s1];
  }
  return (s1 * s1 + s2 * s2 - c * s1 * s2) / (n * n);
}

/**
 * Seconds in which a sound falls by 60 dB: twice what it takes from −5 to −35 dB of Schroeder's backward
 * integral (M. R. Schroeder, “New Method of Measuring Reverberation Time”, JASA 37, 1965; ISO 3382-1), by the
 * straight line through it.
 */
export function reverberationTime(samples: Float32Array, rate: number): number {
  const left = new Float64Array(samples.length + 1);
  for (let i = samples.length - 1; i >= 0; i--) left[i] = left[i + 1]! + samples[i]! ** 2;
  const db = (i: number) => 10 * Math.log10(left[i]! / left[0]!);
  let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
  for (let i = 0; i < samples.length; i += 8) {
    const y = db(i);
    if (y > -5 || y < -35) continue;
    const x = i / rate;
    [n, sx, sy, sxx, sxy] = [n + 1, sx + x, sy + y, sxx + x * x, sxy + x * y];
  }
  const slope = (n * sxy - sx * sy) / (n * sxx - sx * sx);
  return -60 / slope;
}

/** The largest step from one sample to the next between two times. */
export function largestStep(samples: Float32Array, rate: number, from: number, to: number): number {
  let step = 0;
  for (let i = Math.max(1, Math.round(from * rate)); i < Math.min(samples.length, to * rate); i++)
    step = Math.max(step, Math.abs(samples[i]! - samples[i - 1]!));
  return step;
}

/** Root mean square between two times. */
export function rms(samples: Float32Array, rate: number, from: number, to: number): number {
  let [sum, n] = [0, 0];
  for (let i = Math.round(from * rate); i < Math.min(samples.length, to * rate); i++, n++)
    sum += samples[i]! ** 2;
  return Math.sqrt(sum / Math.max(1, n));
}

/** Power of samples at each multiple of the rate over their number, a power of two (radix-2 FFT). */
function powers(samples: Float32Array): Float64Array {
  const n = samples.length;
  const re = Float64Array.from(
    samples,
    (x, i) => x * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / n)),
  );
  const im = new Float64Array(n);
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) [re[i], re[j]] = [re[j]!, re[i]!];
  }
  for (let size = 2; size <= n; size *= 2) {
    for (let at = 0; at < n; at += size) {
      for (let k = 0; k < size / 2; k++) {
        const angle = (-2 * Math.PI * k) / size;
        const [c, s] = [Math.cos(angle), Math.sin(angle)];
        const [a, b] = [at + k, at + k + size / 2];
        const [x, y] = [re[b]! * c - im[b]! * s, re[b]! * s + im[b]! * c];
        [re[b], im[b]] = [re[a]! - x, im[a]! - y];
        [re[a], im[a]] = [re[a]! + x, im[a]! + y];
      }
    }
  }
  return re.subarray(0, n / 2).map((x, i) => x * x + im[i]! ** 2);
}

/** Thirds of an octave from 63 Hz to 12.5 kHz; where a sound is looked at: from when, and in how many samples. */
const BANDS = Array.from({ length: 24 }, (_, i) => 63 * 2 ** (i / 3));
const LOOKS = [
  [0, 4096],
  [0.12, 8192],
  [0.5, 16_384],
] as const;
/** What lies so far below the loudest is not told apart. */
const FLOOR = -50;

/** How a sound is spread over bands of hearing as it begins, goes on and ends: in dB of its loudest. */
export function spectrum(samples: Float32Array, rate: number): number[] {
  const levels = LOOKS.flatMap(([from, size]) => {
    const part = new Float32Array(size);
    const start = Math.round(from * rate);
    part.set(samples.subarray(start, start + size));
    const power = powers(part);
    return BANDS.map((hz) => {
      let sum = 0;
      const [low, high] = [hz * 2 ** (-1 / 6), hz * 2 ** (1 / 6)].map((f) => (f * size) / rate);
      for (let i = Math.ceil(low!); i < high!; i++) sum += power[i]!;
      return sum / size ** 2;
    });
  });
  const most = Math.max(...levels, 1e-20);
  return levels.map((power) => Math.max(FLOOR, 10 * Math.log10(power / most + 1e-12)));
}

/** How far two sounds lie apart: the root mean square of their differences in dB, over bands and time. */
export function spectralDistance(a: readonly number[], b: readonly number[]): number {
  return Math.sqrt(a.reduce((sum, x, i) => sum + (x - b[i]!) ** 2, 0) / a.length);
}

/** Highest level between samples, in dB: four times as many by a windowed sinc (as BS.1770-4, Annex 2, asks). */
export function truePeak(samples: Float32Array): number {
  const [half, times] = [12, 4];
  const taps = Array.from({ length: times }, (_, phase) =>
    Array.from({ length: 2 * half }, (_, k) => {
      const x = k - half + 1 - phase / times;
      const window = 0.5 + 0.5 * Math.cos((Math.PI * x) / half);
      return (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)) * Math.max(0, window);
    }),
  );
  let peak = 0;
  for (let i = half; i < samples.length - half; i++) {
    // Only about high samples can it be higher still.
    if (Math.abs(samples[i]!) < 0.6 * peak) continue;
    for (const phase of taps) {
      let sum = 0;
      for (let k = 0; k < phase.length; k++) sum += phase[k]! * samples[i + k - half + 1]!;
      peak = Math.max(peak, Math.abs(sum));
    }
  }
  return 20 * Math.log10(peak);
}
