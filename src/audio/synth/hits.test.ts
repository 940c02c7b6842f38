import { describe, expect, it } from "vitest";
import { BLOCK } from "./block";
import { Hits, type HitCommand, type SendBlocks } from "./hits";
import { moved, placed } from "./pan";
import { TrackSound, type TrackCommand } from "./track-sound";

const RATE = 44_100;
const ones = (length: number, value = 1) => new Float32Array(length).fill(value);
const hit = (change: Partial<Extract<HitCommand, { type: "hit" }>> = {}): HitCommand => ({
  ...{ type: "hit", id: 1, pad: 36, time: 0, speed: 1, gain: 1, pan: 0, held: false },
  ...change,
});
const sendBlocks = (): SendBlocks => ({
  reverb: ones(BLOCK, 0),
  echo: [ones(BLOCK, 0), ones(BLOCK, 0)],
});

/** What a kit of one pad makes of orders, each taken before the block with its number. */
function play(commands: readonly (readonly [block: number, command: HitCommand])[], blocks = 20) {
  const hits = new Hits(RATE);
  const left = new Float32Array(blocks * BLOCK);
  const right = new Float32Array(blocks * BLOCK);
  const reverb = new Float32Array(blocks * BLOCK);
  const echo = [new Float32Array(blocks * BLOCK), new Float32Array(blocks * BLOCK)] as const;
  for (let k = 0; k < blocks; k++) {
    for (const [block, command] of commands) if (block === k) hits.take(command, k * BLOCK);
    const part = (side: Float32Array) => side.subarray(k * BLOCK, (k + 1) * BLOCK);
    hits.run(part(left), part(right), k * BLOCK, {
      reverb: part(reverb),
      echo: [part(echo[0]), part(echo[1])],
    });
  }
  return { left, right, reverb, echo, sounding: hits.sounding };
}

const sound = (...channels: Float32Array[]): readonly [number, HitCommand] => [
  0,
  { type: "sound", pad: 36, channels },
];

describe("panning", () => {
  // The Web Audio specification, “StereoPannerNode”: equal power for one channel, and what two channels become.
  it("follows the power law of the specification at its ends, its middle and between", () => {
    expect(placed(-1)).toEqual([1, expect.closeTo(0, 12)]);
    expect(placed(1)).toEqual([expect.closeTo(0, 12), 1]);
    expect(placed(0)).toEqual([expect.closeTo(Math.SQRT1_2, 12), expect.closeTo(Math.SQRT1_2, 12)]);
    for (let pan = -1; pan <= 1; pan += 0.125) {
      const [left, right] = placed(pan);
      expect(left ** 2 + right ** 2).toBeCloseTo(1, 12);
      const [ll, rl, lr, rr] = moved(pan);
      // What moves away from a side loses no power.
      expect(ll ** 2 + lr ** 2).toBeCloseTo(1, 12);
      expect(rl ** 2 + rr ** 2).toBeCloseTo(1, 12);
    }
    expect(moved(0)).toEqual([1, 0, 0, 1]);
    expect(moved(-1).map((x) => Math.round(x))).toEqual([1, 1, 0, 0]);
    expect(moved(1).map((x) => Math.round(x))).toEqual([0, 0, 1, 1]);
  });
});

describe("hits", () => {
  it("begin on their sample and end with their recording, as it was made", () => {
    const recording = Float32Array.from({ length: 300 }, (_, i) => Math.sin(i));
    const { left, right, sounding } = play([sound(recording), [0, hit({ time: 500.4 / RATE })]]);
    expect(left.findIndex((x) => x !== 0)).toBe(502);
    expect([...left.subarray(501, 801)]).toEqual([...recording]);
    expect(left.subarray(801).every((x) => x === 0)).toBe(true);
    expect(right).toEqual(left);
    expect(sounding).toBe(0);
  });

  it("are as much shorter as they are tuned up, straight between their samples", () => {
    const ramp = Float32Array.from({ length: 1001 }, (_, i) => i / 1000);
    const { left } = play([sound(ramp), [0, hit({ speed: 1.5 })]]);
    for (let i = 0; i < 666; i++) expect(left[i]).toBeCloseTo((1.5 * i) / 1000, 5);
    expect(left.subarray(668).every((x) => x === 0)).toBe(true);
  });

  it("lie where they are panned, of one channel and of two", () => {
    const one = play([sound(ones(64)), [0, hit({ pan: 0.5, gain: 0.5 })]]);
    expect(one.left[10]).toBeCloseTo(0.5 * placed(0.5)[0], 6);
    expect(one.right[10]).toBeCloseTo(0.5 * placed(0.5)[1], 6);
    const two = play([sound(ones(64, 0.2), ones(64, 0.8)), [0, hit({ pan: -0.5 })]]);
    const [ll, rl, lr, rr] = moved(-0.5);
    expect(two.left[10]).toBeCloseTo(0.2 * ll + 0.8 * rl, 6);
    expect(two.right[10]).toBeCloseTo(0.2 * lr + 0.8 * rr, 6);
  });

  it("send to the room from the middle, without the level of the kit, each pad as it says", () => {
    const gains = { reverb: 0.5, echo: 0.25 };
    const { left, reverb, echo } = play([
      sound(ones(64, 0.2), ones(64, 0.8)),
      [0, { type: "kit", gain: 0.1 }],
      [0, { type: "sends", pad: 36, gains }],
      [0, hit({ pan: 1 })],
      [2, hit({ id: 2, pad: 40, time: 300 / RATE })],
    ]);
    expect(reverb[10]).toBeCloseTo(0.5 * 0.5, 6);
    expect([echo[0][10], echo[1][10]]).toEqual([expect.closeTo(0.05, 6), expect.closeTo(0.2, 6)]);
    expect(Math.abs(left[10]!)).toBeLessThan(1e-6);
    // A pad that has no sound is none.
    expect(reverb.subarray(256).every((x) => x === 0)).toBe(true);
  });

  it("die away when they are choked: from the choke on, with its time constant, and are over after", () => {
    const tau = 0.003;
    const at = 600 / RATE;
    const { left, sounding } = play([
      sound(ones(8000)),
      [0, hit()],
      [1, { type: "end", id: 1, at, tau }],
      // One that comes later changes nothing.
      [1, { type: "end", id: 1, at: at + 0.02, tau: 1 }],
    ]);
    expect(left[599]).toBe(1);
    expect(left[600 + Math.round(tau * RATE)]).toBeCloseTo(Math.exp(-1), 2);
    expect(left.subarray(600 + Math.ceil(10 * tau * RATE)).every((x) => x === 0)).toBe(true);
    expect(sounding).toBe(0);
  });

  it("fall silent together, those to come too, but for what a hand struck where that is spared", () => {
    const commands = (spareHeld: boolean) =>
      play([
        sound(ones(8000)),
        [0, hit()],
        [0, hit({ id: 2, held: true, gain: 0.5 })],
        [0, hit({ id: 3, time: 1500 / RATE })],
        [4, { type: "silence", at: 0, spareHeld }],
      ]).left;
    expect(commands(false)[511]).toBeCloseTo(1.5, 6);
    expect(
      commands(false)
        .subarray(512 + 0.03 * RATE + BLOCK)
        .every((x) => x === 0),
    ).toBe(true);
    expect(commands(true).at(-1)).toBeCloseTo(0.5, 6);
  });

  it("that sound keep their sound when the pad gets another", () => {
    const { left } = play([
      sound(ones(400)),
      [0, hit()],
      [1, { type: "sound", pad: 36, channels: [ones(400, 0.3)] }],
      [1, hit({ id: 2, time: 1000 / RATE })],
    ]);
    expect(left[300]).toBe(1);
    expect(left[1100]).toBeCloseTo(0.3, 6);
  });
});

describe("a track", () => {
  it("takes what pads send at its level, and what it sends itself after its pan", () => {
    const track = new TrackSound(RATE);
    const command = (one: TrackCommand) => track.take(one, 0);
    command({ type: "make", id: 1, player: "hits" });
    command({ type: "levels", levels: { gain: 0.5, pan: 1, sends: { reverb: 0.1, echo: 1 } } });
    const tell = (own: HitCommand) => command({ type: "tell", id: 1, command: own });
    tell({ type: "sound", pad: 36, channels: [ones(64)] });
    tell({ type: "sends", pad: 36, gains: { reverb: 1, echo: 0 } });
    tell(hit());
    const sides = [ones(BLOCK, 0), ones(BLOCK, 0)] as const;
    const room = sendBlocks();
    track.run(sides, room, 0);
    // Both sides of the middle, moved to the right.
    expect([sides[0][5], sides[1][5]]).toEqual([expect.closeTo(0, 6), expect.closeTo(1, 6)]);
    expect(room.reverb[5]).toBeCloseTo(0.5 + 0.1 * 0.5 * 1, 6);
    expect([room.echo[0][5], room.echo[1][5]]).toEqual([
      expect.closeTo(0, 6),
      expect.closeTo(1, 6),
    ]);
    // Told to nobody, and to one that is gone, it is nothing.
    command({ type: "drop", id: 1 });
    tell(hit({ id: 2 }));
    for (const side of sides) side.fill(0);
    track.run(sides, sendBlocks(), BLOCK);
    expect(sides[1].every((x) => x === 0)).toBe(true);
  });
});
