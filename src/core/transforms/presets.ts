import { byId } from "../base";
import type { Params } from "../params";
import { GROOVES } from "../groove";

/** Settings of a transform that ship with the app, named by what they do. One line adds one. */
export const PRESETS = byId<readonly { name: string; params: Params }[]>({
  groove: GROOVES,
  "drum-fill": [
    {
      name: "Half a bar every 4",
      params: { every: 4, span: "half a bar", density: 70, rise: 60 },
    },
    { name: "A beat every 2", params: { every: 2, span: "beat", density: 80, rise: 40 } },
    {
      name: "A whole bar every 8, rising",
      params: { every: 8, span: "bar", density: 85, rise: 90 },
    },
    {
      name: "Triplets before the section ends",
      params: { span: "half a bar", feel: "triplet", heard: "last round of a section" },
    },
  ],
  arpeggiate: [
    { name: "Up in sixteenths", params: { mode: "up", value: "16", gate: 80 } },
    { name: "Down in eighths, joined", params: { mode: "down", value: "8", gate: 100 } },
    { name: "Up and down, two octaves", params: { mode: "up-down", octaves: 2, gate: 70 } },
    {
      name: "Chord on the offbeats",
      params: { mode: "chord", value: "8", gate: 55, steps: "r 100" },
    },
    {
      name: "Chord, three three two",
      params: { mode: "chord", value: "16", gate: 90, steps: "110 r r 85 r r 95 r" },
    },
    {
      name: "Every other an octave up",
      params: { mode: "up", value: "16", gate: 60, steps: "100 70+1" },
    },
    {
      name: "One long, three quick",
      params: { mode: "up", value: "16", gate: 85, steps: "115 t t 75 65 60" },
    },
    {
      name: "Triplets, the third silent",
      params: { mode: "up-down", value: "8", kind: "triplet", gate: 75, steps: "100 80 r" },
    },
    {
      name: "Stutter that slows down",
      params: { mode: "chord", value: "64", gate: 70, change: 9 },
    },
    { name: "Scattered", params: { mode: "random", octaves: 2, gate: 50 } },
  ],
  strum: [
    { name: "A quick sweep up", params: { direction: "up", unit: "ms", spread: 24 } },
    {
      name: "A slow sweep down",
      params: { direction: "down", unit: "ms", spread: 140, curve: 30 },
    },
    { name: "Up and down in turns", params: { direction: "alternate", unit: "ms", spread: 45 } },
    {
      name: "Rolled over an eighth, swelling",
      params: { direction: "up", unit: "note value", value: "8", tilt: 24 },
    },
  ],
  stutter: [
    {
      name: "Slows down, late",
      params: { first: "32", last: "8", curve: "late", velocityTo: -20 },
    },
    { name: "Runs away", params: { first: "8", last: "64", curve: "early", velocityTo: 25 } },
    { name: "Purr to knock", params: { unit: "ms", firstMs: 18, lastMs: 240, curve: "evenly" } },
  ],
  split: [
    { name: "Three three two", params: { way: "in a rhythm", rhythm: "3 3 2", value: "16" } },
    { name: "Long short short", params: { way: "in a rhythm", rhythm: "2 1 1", value: "16" } },
    {
      name: "Faster and softer",
      params: { way: "into equal pieces", count: 6, ratio: 0.75, velocityTo: -50 },
    },
  ],
});
