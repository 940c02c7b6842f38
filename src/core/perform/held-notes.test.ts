import { describe, expect, it } from "vitest";
import { HeldNotes, type KeyDown } from "./held-notes";

function setUp() {
  const log: string[] = [];
  const hands = new HeldNotes(({ track, pitch, time }) => {
    log.push(`+${track}${pitch}@${time}`);
    return { end: (at) => log.push(`-${track}${pitch}@${at}`) };
  });
  const key = (pitch: number, time: number, track = "a"): KeyDown => ({
    track,
    pitch,
    velocity: 90,
    time,
  });
  return { log, hands, key };
}

describe("keys that are held", () => {
  it("begin and end once each, on the track they began on", () => {
    const { log, hands, key } = setUp();
    hands.down("kb", "x", key(60, 1));
    hands.up("kb", "x", 2);
    hands.up("kb", "x", 3);
    hands.up("kb", "never", 3);
    expect(log).toEqual(["+a60@1", "-a60@2"]);
  });

  it("struck again without having come up end first: a note-off was dropped", () => {
    const { log, hands, key } = setUp();
    hands.down("midi", "60", key(60, 1));
    hands.down("midi", "60", key(60, 5));
    hands.up("midi", "60", 6);
    expect(log).toEqual(["+a60@1", "-a60@5", "+a60@5", "-a60@6"]);
  });

  it("of two sources at one pitch are two notes", () => {
    const { log, hands, key } = setUp();
    hands.down("kb", "x", key(60, 1));
    hands.down("midi", "60", key(60, 2));
    hands.up("kb", "x", 3);
    expect([log.at(-1), hands.count]).toEqual(["-a60@3", 1]);
  });

  it("go on under the pedal until it comes up, and those still down go on after it", () => {
    const { log, hands, key } = setUp();
    hands.pedal("kb", true, 0);
    hands.down("kb", "x", key(60, 1));
    hands.down("kb", "y", key(64, 1));
    hands.up("kb", "x", 2);
    expect(hands.count).toBe(2);
    hands.pedal("kb", false, 9);
    expect([log.at(-1), [...hands.pitches("a")]]).toEqual(["-a60@9", [64]]);
  });

  it("under the pedal give way to the same pitch from another key", () => {
    const { log, hands, key } = setUp();
    hands.pedal("kb", true, 0);
    hands.down("kb", "x", key(60, 1));
    hands.up("kb", "x", 2);
    hands.down("midi", "60", key(60, 3));
    expect([log, hands.count]).toEqual([["+a60@1", "-a60@3", "+a60@3"], 1]);
  });

  it("are let go by source, or all", () => {
    const { hands, key } = setUp();
    hands.down("kb", "x", key(60, 1));
    hands.down("midi", "60", key(62, 1, "b"));
    hands.release(5, "kb");
    expect([hands.count, [...hands.pitches("b")]]).toEqual([1, [62]]);
    hands.release(6);
    expect(hands.count).toBe(0);
  });

  it("outside 0 to 127 are none, and one that cannot sound holds nothing", () => {
    const { hands, key, log } = setUp();
    hands.down("kb", "x", key(128, 1));
    hands.down("kb", "y", key(-1, 1));
    hands.down("kb", "z", key(60.5, 1));
    expect([log, hands.count]).toEqual([[], 0]);
    const silent = new HeldNotes(() => null);
    silent.down("kb", "x", key(60, 1));
    expect(silent.count).toBe(0);
  });
});
