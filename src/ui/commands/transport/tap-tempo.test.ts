import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { createProject } from "@/core/score";
import { createSession } from "../../state/store";
import { scaleTempo, tapTempo } from "./tap-tempo";

const tempoOf = (store: ReturnType<typeof createSession>) => store.getState().project.tempo;

describe("tapping the tempo", () => {
  it("shows from the second tap, is one undo step, and begins anew after a pause", () => {
    const store = createSession("p", createProject({ tempo: 120 }));
    tapTempo(store, 0);
    expect(tempoOf(store)).toBe(120);
    for (let i = 1; i < 6; i++) {
      tapTempo(store, i * 600);
      expect(tempoOf(store)).toBe(100);
    }
    expect(store.getState().announcement).toBe("Tempo 100.0, from 6 taps");
    expect(store.getState().history.past).toHaveLength(1);
    tapTempo(store, 60_000);
    tapTempo(store, 60_750);
    expect(tempoOf(store)).toBe(80);
    expect(store.getState().history.past).toHaveLength(2);
    store.getState().undo();
    expect(tempoOf(store)).toBe(100);
    store.getState().undo();
    expect(tempoOf(store)).toBe(120);
  });

  it("counts the felt beat: in 12/8 a dotted quarter", () => {
    const store = createSession("p", createProject({ metre: { beats: 12, unit: 8 } }));
    for (let i = 0; i < 4; i++) tapTempo(store, i * 600);
    expect(tempoOf(store)).toBe(150);
    expect(store.getState().announcement).toBe("Tempo 100.0 dotted quarters a minute, from 4 taps");
  });

  it("begins anew after two seconds without a tap, and after an undo", () => {
    const store = createSession("p", createProject({ tempo: 120 }));
    for (const at of [0, 600, 1200]) tapTempo(store, at);
    expect(tempoOf(store)).toBe(100);
    tapTempo(store, 3300);
    expect(tempoOf(store)).toBe(100);
    tapTempo(store, 3800);
    expect(tempoOf(store)).toBe(120);
    store.getState().undo();
    expect(tempoOf(store)).toBe(100);
    tapTempo(store, 4300);
    expect(store.getState().announcement).toBe("Tap again, in time with the beat");
    tapTempo(store, 4900);
    expect(tempoOf(store)).toBe(100);
    expect(store.getState().announcement).toBe("Tempo 100.0, from 2 taps");
  });

  it("at half and double stays within what a project may have", () => {
    const store = createSession("p", edits.setTempo(createProject(), 90));
    scaleTempo(store, 2);
    expect(tempoOf(store)).toBe(180);
    scaleTempo(store, 2);
    expect(tempoOf(store)).toBe(360);
    scaleTempo(store, 2);
    expect(tempoOf(store)).toBe(360);
    expect(store.getState().announcement).toBe("The tempo goes from 20 to 400");
    for (let i = 0; i < 9; i++) scaleTempo(store, 0.5);
    expect(tempoOf(store)).toBe(22.5);
  });
});
