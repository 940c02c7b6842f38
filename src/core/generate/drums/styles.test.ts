import { describe, expect, it } from "vitest";
import { type Metre, barTicks, beatTicks, beatsInBar, grid } from "../../time";
import { DRUM_IDEA_DEFAULTS, generateDrumIdeas } from "./ideas";
import type { DrumIdeaOptions } from "./options";
import { DRUM_STYLES } from "./styles/registry";
import { backbeats } from "./styles/style";
import { metricalWeights, syncopation } from "../rhythm/syncopation";

const PADS = [36, 38, 42, 46, 45];
const lanes = PADS.map((pitch) => ({ pitch, grid: grid(16), period: null }));
const four: Metre = { beats: 4, unit: 4 };
const ideas = (options: Partial<DrumIdeaOptions>) =>
  generateDrumIdeas({ ...DRUM_IDEA_DEFAULTS, lanes, style: "straight", ...options });
/** Of one pad by itself, which is as dense as it is asked to be. */
const alone = (pitch: number, options: Partial<DrumIdeaOptions>) =>
  ideas({ ...options, lanes: lanes.filter((lane) => lane.pitch === pitch) });
const startsOf = (notes: readonly { pitch: number; start: number }[], pitch: number) =>
  notes.filter((n) => n.pitch === pitch).map((n) => n.start);

describe("the measure of syncopation", () => {
  // Weights of sixteen places and of rhythms as commonly shown for the measure of Longuet-Higgins and Lee (1984); from memory.
  it("weighs the places of a bar", () => {
    expect(metricalWeights(16, 4)).toEqual([
      0, -4, -3, -4, -2, -4, -3, -4, -1, -4, -3, -4, -2, -4, -3, -4,
    ]);
    expect(metricalWeights(6, 3)).toEqual([0, -2, -1, -2, -1, -2]);
  });
  it("is none on the beats, and more the stronger the rest that follows", () => {
    const how = { bar: 3840, beats: 4, cell: 240 };
    expect(syncopation([0, 960, 1920, 2880], how)).toBe(0);
    // An eighth before the third beat, held over it: from −3 to −1.
    expect(syncopation([0, 1440], how)).toBe(2);
    expect(syncopation([0, 1680], how)).toBe(3);
  });
});

describe("drum ideas in a style", () => {
  it("have their anchors: the kick on the one, backbeats, in every metre and at every density", () => {
    for (const style of DRUM_STYLES)
      for (const metre of [
        four,
        { beats: 7, unit: 8 },
        { beats: 6, unit: 8 },
        { beats: 3, unit: 4 },
      ])
        for (const density of [10, 35, 90]) {
          const beats = beatsInBar(metre);
          const found = ideas({
            style: style.id,
            metre,
            density,
            count: 4,
            bars: 2,
            seed: density,
          });
          for (const { notes } of found) {
            const kicks = startsOf(notes, 36);
            for (const at of style.anchors("kick", beats))
              expect(kicks, style.id).toContain(at * beatTicks(metre));
            expect(kicks).toContain(0);
            const snares = startsOf(notes, 38);
            for (const at of style.anchors("backbeat", beats))
              expect(snares, style.id).toContain(at * beatTicks(metre) + barTicks(metre));
          }
        }
    expect(backbeats(4)).toEqual([1, 3]);
  });

  it("rise in syncopation with the slider, by a published measure", () => {
    for (const density of [20, 35, 50]) {
      const points = [0, 10, 20, 30, 40, 50, 60, 70, 80, 90, 100].map((amount) => {
        let sum = 0;
        for (let seed = 0; seed < 60; seed++) {
          const [idea] = ideas({ syncopation: amount, density, spread: 30, count: 1, seed });
          for (const pitch of [36, 42, 45])
            sum += syncopation(startsOf(idea!.notes, pitch), { bar: 3840, beats: 4, cell: 240 });
        }
        return [amount, sum] as const;
      });
      expect(correlation(points), String(density)).toBeGreaterThan(0.9);
    }
  });

  it("change with syncopation and with spread on every lane, at every density", () => {
    for (const density of [10, 25, 50, 75, 90])
      for (const wish of ["syncopation", "spread"] as const)
        for (const pitch of PADS) {
          // A tenth of sixteen steps is less than the two backbeats, which stay.
          if (density === 10 && pitch === 38) continue;
          let unlike = 0;
          for (let seed = 0; seed < 30; seed++) {
            const at = (value: number) =>
              String(
                startsOf(alone(pitch, { density, [wish]: value, count: 1, seed })[0]!.notes, pitch),
              );
            if (at(0) !== at(100)) unlike++;
          }
          expect(unlike, `${wish} ${density} ${pitch}`).toBeGreaterThan(density === 10 ? 2 : 8);
        }
  });

  it("are carried by the pulse, colour is rare; all are empty at none and full at a hundred", () => {
    const hits = (density: number) =>
      PADS.map((pitch) => {
        let sum = 0;
        for (let seed = 0; seed < 100; seed++)
          sum += startsOf(ideas({ density, count: 1, seed })[0]!.notes, pitch).length;
        return sum / 100;
      });
    for (const density of [20, 35, 50, 70]) {
      const [kick, snare, closed, open, tom] = hits(density) as [
        number,
        number,
        number,
        number,
        number,
      ];
      for (const other of [kick, snare, open, tom]) expect(closed).toBeGreaterThan(1.15 * other);
      expect(open).toBeLessThan(0.85 * kick);
      expect(tom).toBeLessThan(open);
    }
    // A tom once or twice in a bar of a usual beat.
    expect(hits(35)[4]).toBeLessThan(1.7);
    expect(hits(0)).toEqual([0, 0, 0, 0, 0]);
    expect(hits(100)).toEqual([16, 16, 16, 16, 16]);
  });

  it("have crashes on the one, and rarely, in every style", () => {
    const pads = [...PADS, 49].map((pitch) => ({ pitch, grid: grid(16), period: null }));
    for (const { id } of DRUM_STYLES) {
      let [ones, all] = [0, 0];
      for (let seed = 0; seed < 100; seed++) {
        const [idea] = ideas({ lanes: pads, style: id, bars: 4, density: 35, count: 1, seed });
        const crashes = startsOf(idea!.notes, 49);
        all += crashes.length;
        ones += crashes.filter((start) => start % 3840 === 0).length;
      }
      expect(all / 400, id).toBeLessThan(1);
      expect(all, id).toBeGreaterThan(40);
      expect(ones / all, id).toBeGreaterThan(0.75);
    }
  });

  it("lie the more evenly, the more they are to be spread", () => {
    const uneven = [0, 50, 100].map((spread) => {
      let sum = 0;
      for (let seed = 0; seed < 80; seed++) {
        const starts = startsOf(alone(45, { spread, density: 30, count: 1, seed })[0]!.notes, 45);
        const gaps = starts.map((start, i) => (starts[i + 1] ?? starts[0]! + 3840) - start);
        const mean = 3840 / gaps.length;
        sum += gaps.reduce((a, gap) => a + (gap - mean) ** 2, 0) / gaps.length;
      }
      return sum;
    });
    expect(uneven[1]).toBeLessThan(uneven[0]!);
    expect(uneven[2]).toBeLessThan(uneven[1]!);
  });

  it("hold as many hits as the density says, none twice, ghosts softer than backbeats", () => {
    for (const density of [20, 50, 80]) {
      let hits = 0;
      for (let seed = 0; seed < 100; seed++)
        hits += startsOf(alone(42, { density, count: 1, seed })[0]!.notes, 42).length;
      expect(Math.abs(hits / 100 / 16 - density / 100)).toBeLessThan(0.03);
    }
    const batch = ideas({ count: 24, density: 30 });
    expect(
      new Set(batch.map(({ notes }) => JSON.stringify(notes.map((n) => [n.start, n.pitch])))).size,
    ).toBe(24);
    for (const { notes, description } of batch) {
      const snares = notes.filter((n) => n.pitch === 38);
      const back = snares.filter((n) => n.start === 960 || n.start === 2880);
      const ghosts = snares.filter((n) => n.start !== 960 && n.start !== 2880);
      for (const ghost of ghosts)
        expect(ghost.velocity).toBeLessThan(Math.min(...back.map((n) => n.velocity)));
      expect(description).toMatch(
        /^kick and backbeat in turn, the pulse carries; \d+ hits in 1 bar$/,
      );
    }
  });

  it("are the same from the same seed; the first version's stay as they were; a full bar does not search on", () => {
    expect(ideas({ seed: 5 })).toEqual(ideas({ seed: 5 }));
    expect(() => ideas({ style: "unheard of" })).toThrow(/style must be a known style/);
    expect(ideas({ density: 100, count: 24, bars: 8 })).toHaveLength(1);
    expect(ideas({ density: 0, count: 3 })[0]!.notes).toEqual([]);
  });
});

function correlation(points: readonly (readonly [number, number])[]): number {
  const n = points.length;
  const [mx, my] = [0, 1].map((k) => points.reduce((sum, p) => sum + p[k as 0 | 1], 0) / n);
  let [xy, xx, yy] = [0, 0, 0];
  for (const [x, y] of points) {
    xy += (x - mx!) * (y - my!);
    xx += (x - mx!) ** 2;
    yy += (y - my!) ** 2;
  }
  return xy / Math.sqrt(xx * yy);
}
