import type { MidiPitch } from "../../../base";

/** What a pad does in a beat. */
export type Role = "kick" | "backbeat" | "pulse" | "open" | "crash" | "colour";

const ROLES: Readonly<Record<number, Role>> = {
  35: "kick",
  36: "kick",
  38: "backbeat",
  39: "backbeat",
  40: "backbeat",
  42: "pulse",
  44: "pulse",
  51: "pulse",
  59: "pulse",
  70: "pulse",
  82: "pulse",
  46: "open",
  49: "crash",
  52: "crash",
  55: "crash",
  57: "crash",
};
/** The role of a pad, by its place in the percussion map; others add colour (common practice). */
export const roleOf = (pitch: MidiPitch): Role => ROLES[pitch] ?? "colour";

/**
 * How many of its places each role fills in a beat of several pads, 0–1, where the beat is asked to be so dense: the
 * pulse carries, an open hat, colour and crashes are rare unless all is full.
 */
export function shareOf(role: Role, density: number): number {
  switch (role) {
    case "kick":
    case "backbeat":
      return density;
    case "pulse":
      return 1 - (1 - density) ** 1.8;
    case "open":
      return density * (0.3 + 0.7 * density);
    case "crash":
      return density ** 3;
    case "colour":
      return density * (0.1 + 0.9 * density ** 2);
  }
}

/** A place of a bar: which beat from 0, how far into it 0–1, and how many beats the bar has. */
export interface BarPlace {
  beat: number;
  part: number;
  beats: number;
}

/** A way of playing, as rules: what is always there, and what is welcome. */
export interface DrumStyle {
  id: string;
  label: string;
  /** What it does, in a few words. */
  about: string;
  /** Places that a role always has, in beats of the bar from 0. */
  anchors(role: Role, beats: number): readonly number[];
  /** How welcome a further hit of a role is, 0–1. */
  welcome(role: Role, place: BarPlace): number;
}

/** Beats that the backbeat stands on: 2 and 4 of four (common practice). */
export function backbeats(beats: number): readonly number[] {
  const known: Readonly<Record<number, readonly number[]>> = {
    1: [],
    2: [1],
    3: [2],
    4: [1, 3],
    5: [2, 4],
    6: [3],
    7: [2, 5],
  };
  return known[beats] ?? Array.from({ length: Math.floor(beats / 2) }, (_, i) => 2 * i + 1);
}

const near = (a: number, b: number) => Math.abs(a - b) < 0.02;

/** What is welcome in most styles: kicks before and between the backbeats, ghosts about them, an open hat before the one. */
export function usual(role: Role, { beat, part, beats }: BarPlace): number {
  const back = backbeats(beats).includes(beat) && near(part, 0);
  const half = near(part, 0) || near(part, 0.5);
  switch (role) {
    case "kick":
      return back ? 0.05 : near(part, 0) ? 0.8 : half ? 0.6 : 0.35;
    case "backbeat":
      return back ? 1 : near(part, 0) ? 0.05 : half ? 0.15 : 0.4;
    case "pulse":
      return half ? 1 : 0.45;
    case "open":
      return beat === beats - 1 && near(part, 0.5) ? 1 : near(part, 0.5) ? 0.4 : 0.06;
    case "crash":
      return beat === 0 && near(part, 0) ? 1 : near(part, 0) ? 0.02 : 0;
    case "colour":
      return half ? 0.3 : 0.5;
  }
}
