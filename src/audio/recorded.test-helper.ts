import { seeded } from "@/core/base";
import { velocityGain } from "./instrument";
import { kitOf } from "./kits/registry";

/** What is known of a loop that was rendered: what was hit when. */
export interface Played {
  time: number;
  kind: "low" | "middle" | "high";
  velocity: number;
}
export interface Loop {
  samples: Float32Array<ArrayBuffer>;
  rate: number;
  tempo: number;
  /** Seconds of the first bar's one. */
  first: number;
  hits: Played[];
}

const PADS: Record<number, Played["kind"]> = {
  36: "low",
  38: "middle",
  39: "middle",
  42: "high",
  46: "high",
};

/** Sixteenths of a bar, and those of the backbeat. */
export interface LoopBar {
  steps: number;
  backbeat: readonly number[];
}
const FOUR: LoopBar = { steps: 16, backbeat: [4, 12] };

/** A beat as somebody would play it: kick on the one, backbeat, hats carried, some ghosts. */
function beat(seed: number, bars: number, { steps, backbeat }: LoopBar) {
  const random = seeded(seed);
  const hats = random() < 0.5 ? 2 : 1;
  const clap = random() < 0.3;
  const kicks = [0, 3, 6, 7, 8, 10, 11, 14].filter((at) => at === 0 || random() < 0.33);
  const last = steps - 2;
  const hits: { step: number; pad: number; velocity: number }[] = [];
  for (let bar = 0; bar < bars; bar++) {
    for (let step = 0; step < steps; step++) {
      const at = bar * steps + step;
      const vary = (v: number) =>
        Math.min(127, Math.max(20, Math.round(v + 16 * (random() - 0.5))));
      if (kicks.includes(step) && !backbeat.includes(step))
        hits.push({ step: at, pad: 36, velocity: vary(108) });
      if (backbeat.includes(step))
        hits.push({ step: at, pad: clap ? 39 : 38, velocity: vary(110) });
      else if (random() < 0.06) hits.push({ step: at, pad: 38, velocity: vary(52) });
      if (step % hats === 0) {
        const open = step === last && random() < 0.4;
        hits.push({ step: at, pad: open ? 46 : 42, velocity: vary(step % 4 === 0 ? 96 : 72) });
      }
    }
  }
  return hits;
}

export interface LoopWish {
  kit: string;
  tempo: number;
  seed: number;
  /** Percent of a pair of sixteenths. */
  swing?: number;
  /** Seconds of a room's decay; 0 for none. */
  room?: number;
  bars?: number;
  bar?: LoopBar;
  /** Seconds of silence before the one. */
  lead?: number;
  rate?: number;
}

/** A loop of one of our kits, with what is known of it. */
export function recordedLoop(wish: LoopWish): Loop {
  const {
    kit,
    tempo,
    seed,
    swing = 50,
    room = 0,
    bars = 4,
    bar = FOUR,
    lead = 0,
    rate = 44_100,
  } = wish;
  const sixteenth = 15 / tempo;
  const length = Math.round((lead + bars * bar.steps * sixteenth) * rate);
  const samples = new Float32Array(length);
  const hits: Played[] = [];
  for (const { step, pad, velocity } of beat(seed, bars, bar)) {
    const time = lead + (step + (step % 2 === 1 ? (swing - 50) / 50 : 0)) * sixteenth;
    hits.push({ time, kind: PADS[pad]!, velocity });
    const sound = kitOf(kit).pads[pad]!(rate);
    const at = Math.round(time * rate);
    const gain = velocityGain(velocity) * 0.5;
    for (let i = 0; i < sound.length && at + i < length; i++) samples[at + i]! += gain * sound[i]!;
  }
  return {
    samples: room > 0 ? inRoom(samples, rate, room, seed) : samples,
    rate,
    tempo,
    first: lead,
    hits,
  };
}

/** With the late sound of a room: noise that falls by 60 dB (J. A. Moorer, Computer Music Journal 3(2), 1979). */
function inRoom(samples: Float32Array, rate: number, decay: number, seed: number) {
  const random = seeded(seed + 99);
  const out = Float32Array.from(samples);
  // So many echoes at random sound as the noise does, and cost less.
  for (let k = 0; k < 200; k++) {
    const at = 0.012 + decay * 0.9 * random();
    const gain = 0.07 * (random() < 0.5 ? -1 : 1) * 10 ** ((-3 * at) / decay);
    const shift = Math.round(at * rate);
    for (let i = shift; i < out.length; i++) out[i]! += gain * samples[i - shift]!;
  }
  return out;
}
