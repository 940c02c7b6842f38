import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { type Note, createProject, makeNote, partOf } from "@/core/score";
import { TRANSFORMS, effectivePart } from "@/core/transforms";
import { seeded } from "@/core/base";
import { createSession } from "../../state/store";
import { TIDYINGS, toggleTidy } from "../perform/tidy";
import { addToChain } from "./chain";
import { fittingParams } from "./fitting";

const DRUMS = { pattern: "a", track: "drums" };
const hit = (start: number, pitch: number) =>
  makeNote({ id: `h${start}-${pitch}`, start, pitch, length: 120 });

/** A beat as it is played: hats in sixteenths, the snare's ghosts between its backbeats, up to 12 ticks aside. */
function played(): Note[] {
  const random = seeded(4);
  const aside = () => Math.round((random() * 2 - 1) * 12);
  return [
    ...Array.from({ length: 16 }, (_, i) => hit(Math.max(0, i * 240 + aside()), 42)),
    ...[960, 1680, 2880].map((start) => hit(start + aside(), 38)),
  ];
}
const heard = (store: ReturnType<typeof createSession>) => {
  const { project } = store.getState();
  const [track, pattern] = [project.tracks[0]!, project.patterns[0]!];
  return effectivePart(project, track, partOf(project, DRUMS), pattern).notes;
};

describe("quantizing what was played", () => {
  it("goes to the grid that it fits, not to the one a lane is drawn on, and loses no hit", () => {
    // The snare's lane is drawn on quarters.
    const store = createSession("x", edits.setNotes(createProject({ bars: 1 }), DRUMS, played()));
    store.getState().setTrack("drums", 38);
    toggleTidy(
      store,
      TIDYINGS.find(({ transform }) => transform === "quantize")!,
    );
    const [step] = partOf(store.getState().project, DRUMS).chain;
    expect(step!.params).toMatchObject({ value: "16", kind: "straight", swing: 50, strength: 70 });
    const snare = heard(store).filter(({ pitch }) => pitch === 38);
    expect(snare).toHaveLength(3);
    [960, 1680, 2880].forEach((start, i) =>
      expect(Math.abs(snare[i]!.start - start)).toBeLessThan(6),
    );
  });

  it("says what would fall together before it does", () => {
    const { effect } = TRANSFORMS.quantize!.apply(
      [hit(0, 38), hit(200, 38), hit(960, 38)],
      { value: "4" },
      { kind: "drums" },
    );
    expect(effect.sentence).toMatch(/; 1 on one that is there$/);
    const none = TRANSFORMS.quantize!.apply([hit(10, 38), hit(10, 42)], {}, { kind: "drums" });
    expect(none.effect.sentence).not.toMatch(/one that is there/);
  });
});

describe("swing on a kit", () => {
  it("is of one pair of cells for all lanes: backbeats stay, whatever their lanes are drawn on", () => {
    const beat = [
      ...Array.from({ length: 16 }, (_, i) => hit(i * 240, 42)),
      hit(960, 38),
      hit(2880, 38),
    ];
    const store = createSession("x", edits.setNotes(createProject({ bars: 1 }), DRUMS, beat));
    store.getState().setTrack("drums", 38);
    addToChain(store, "swing", { kind: "part", label: "All", places: [DRUMS], ids: null });
    const now = heard(store);
    expect(now.filter(({ pitch }) => pitch === 38).map(({ start }) => start)).toEqual([960, 2880]);
    const hats = now.filter(({ pitch }) => pitch === 42).map(({ start }) => start);
    hats.forEach((start, i) => expect(start).toBe(i * 240 + (i % 2 === 1 ? 38 : 0)));
  });

  it("is of eighths where nothing lies between them", () => {
    const eighths = Array.from({ length: 8 }, (_, i) => hit(i * 480, 42));
    const store = createSession("x", edits.setNotes(createProject({ bars: 1 }), DRUMS, eighths));
    store.getState().setTrack("drums", 42);
    expect(fittingParams(store.getState(), "swing")).toEqual({ value: "8", kind: "straight" });
    store.getState().setTrack("bass");
    expect(fittingParams(store.getState(), "swing")).toEqual({});
  });
});
