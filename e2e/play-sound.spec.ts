import { expect, openNew, test } from "./fixtures";

const SOUNDS = ["reed-bass", "glass-keys", "rope-pluck", "wire-lead"];

/** Largest jump from one sample to the next in stretches of a held note, by sound. */
interface Jumps {
  /** While it is held, as its own wave jumps. */
  held: number;
  /** From shortly before it is let go until it is silent. */
  ending: number;
  /** What is left when it has rung out. */
  silence: number;
}

test("held notes end without a click, whenever they are let go, and are silent after", async ({
  page,
}) => {
  await openNew(page);
  for (const sound of SOUNDS) {
    // Let go while they hold, while they begin, and struck again at once.
    for (const to of [0.6, 0.101, 0.1]) {
      const jumps = await page.evaluate(
        async ({ sound, to }): Promise<Jumps> => {
          const { bounceHeld, project } = window.hailstep!;
          const now = project();
          const one = {
            ...now,
            tracks: now.tracks.map((t) => (t.id === "bass" ? { ...t, sound } : t)),
          };
          const pitch = 50;
          const long = await bounceHeld(one, {
            track: "bass",
            notes: [{ pitch, velocity: 110, from: 0.1, to: 2 }],
            seconds: 2,
          });
          const buffer = await bounceHeld(one, {
            track: "bass",
            notes: [{ pitch, velocity: 110, from: 0.1, to }],
            seconds: 2,
          });
          const largest = (b: AudioBuffer, from: number, until: number) => {
            const samples = b.getChannelData(0);
            let most = 0;
            for (let i = Math.floor(from * b.sampleRate); i < until * b.sampleRate; i++)
              most = Math.max(most, Math.abs(samples[i + 1]! - samples[i]!));
            return most;
          };
          return {
            held: largest(long, 0.1, 0.9),
            ending: largest(buffer, Math.max(to - 0.002, 0.1), 1.5),
            silence: largest(buffer, 1.6, 1.95),
          };
        },
        { sound, to },
      );
      expect(jumps.held, sound).toBeGreaterThan(0.001);
      // No jump that the wave itself does not make.
      expect(jumps.ending, `${sound} let go at ${to}`).toBeLessThanOrEqual(jumps.held * 1.02);
      expect(jumps.silence, sound).toBeLessThan(0.0005);
    }
  }
});

test("a bend is heard as far as it is drawn", async ({ page }) => {
  await openNew(page);
  for (const sound of ["reed-bass", "glass-keys", "rope-pluck"]) {
    const hertz = await page.evaluate(async (sound) => {
      const { bounce, project } = window.hailstep!;
      const now = project();
      /** Pitch in Hz of a second's quarter, by the lag at which the wave is most like itself. */
      const pitchOf = (b: AudioBuffer, from: number, near: number) => {
        const samples = b
          .getChannelData(0)
          .subarray(from * b.sampleRate, (from + 0.25) * b.sampleRate);
        const like = (lag: number) => {
          let sum = 0;
          for (let i = 0; i + lag < samples.length; i++) sum += samples[i]! * samples[i + lag]!;
          return sum / (samples.length - lag);
        };
        const middle = b.sampleRate / near;
        let best = Math.floor(middle * 0.8);
        for (let lag = best; lag < middle * 1.25; lag++) if (like(lag) > like(best)) best = lag;
        // Between samples, by the parabola through the three about the best.
        const [a, c, d] = [like(best - 1), like(best), like(best + 1)];
        return b.sampleRate / (best + (0.5 * (a - d)) / (a - 2 * c + d));
      };
      const render = async (bend: { tick: number; value: number }[]) => {
        const note = {
          id: "n",
          start: 0,
          length: 3800,
          pitch: 57,
          velocity: 100,
          pan: 0,
          tune: 0,
          slide: false,
        };
        const bent = {
          ...now,
          tempo: 120,
          tracks: now.tracks.map((t) => (t.id === "bass" ? { ...t, sound } : t)),
          patterns: now.patterns.map((p) => ({
            ...p,
            parts: p.parts.map((part) =>
              part.track === "bass" ? { ...part, notes: [note], bend } : part,
            ),
          })),
        };
        return bounce(bent, 0, 3840, { pattern: "a" });
      };
      const [plain, up, ramp] = [
        await render([{ tick: 0, value: 0 }]),
        await render([{ tick: 0, value: 8191 }]),
        // From the middle to all the way down over half a second, then held.
        await render([
          { tick: 0, value: 0 },
          { tick: 960, value: -8192 },
        ]),
      ];
      return [pitchOf(plain, 0.4, 220), pitchOf(up, 0.4, 247), pitchOf(ramp, 0.6, 196)];
    }, sound);
    const cents = (hz: number, want: number) => Math.abs(1200 * Math.log2(hz / want));
    // A3 = 220 Hz (ISO 16); two semitones are a factor of 2 to the power of 2/12.
    expect(cents(hertz[0]!, 220), `${sound} ${hertz[0]}`).toBeLessThan(6);
    expect(cents(hertz[1]!, 220 * 2 ** (2 / 12)), `${sound} ${hertz[1]}`).toBeLessThan(6);
    expect(cents(hertz[2]!, 220 / 2 ** (2 / 12)), `${sound}: ${hertz.join(" ")}`).toBeLessThan(6);
  }
});
