import { byId } from "@/core/base";
import type { Shaping, SoundControl } from "@/core/sound";
import type { Design } from "./layered";

/** What shapes the sounds of a category, and values of ours under a name. One entry adds one. */
const CATEGORIES = byId<{
  controls: readonly SoundControl[];
  presets: readonly { name: string; params: Shaping }[];
}>({
  Bass: {
    controls: ["brightness", "body", "release", "drive", "width", "glide"],
    presets: [
      { name: "Soft and round", params: { brightness: -45, body: 25 } },
      { name: "Dirty", params: { drive: 55, brightness: 20 } },
      { name: "Sliding line", params: { glide: 110, release: 0.7 } },
    ],
  },
  Keys: {
    controls: ["brightness", "body", "release", "motion", "drive", "width"],
    presets: [
      { name: "Late evening", params: { brightness: -35, body: 15, release: 1.6, motion: 25 } },
      { name: "Swaying, wide", params: { motion: 60, width: 60 } },
      { name: "Worn out", params: { drive: 45, brightness: -20, motion: 35 } },
    ],
  },
  "Mallets and bells": {
    controls: ["brightness", "body", "release", "motion", "width"],
    presets: [
      { name: "Short and dull", params: { brightness: -50, release: 0.4 } },
      { name: "Rings on", params: { release: 3, width: 40 } },
      { name: "Under water", params: { brightness: -60, motion: 70 } },
    ],
  },
  Pluck: {
    controls: ["brightness", "body", "release", "motion", "drive", "width"],
    presets: [
      { name: "Palm on the strings", params: { brightness: -55, release: 0.4, body: 20 } },
      { name: "Many strings", params: { motion: 70, width: 70 } },
      { name: "Through a small amplifier", params: { drive: 50, body: -30 } },
    ],
  },
  Lead: {
    controls: ["brightness", "attack", "release", "motion", "drive", "width", "glide"],
    presets: [
      { name: "From note to note", params: { glide: 140 } },
      { name: "Soft and wide", params: { brightness: -30, attack: 6, width: 60, motion: 30 } },
      { name: "Cutting", params: { brightness: 45, drive: 40 } },
    ],
  },
  Pad: {
    controls: ["brightness", "body", "attack", "release", "motion", "width"],
    presets: [
      { name: "Swells in", params: { attack: 4, release: 1.5 } },
      { name: "Quicker", params: { attack: 0.3, release: 0.5 } },
      { name: "Far and wide", params: { brightness: -35, body: -20, width: 80, motion: 50 } },
    ],
  },
  "Strings and winds": {
    controls: ["brightness", "body", "attack", "release", "motion", "width", "glide"],
    presets: [
      { name: "Swells in", params: { attack: 6, release: 1.8 } },
      { name: "Short bows and breaths", params: { attack: 0.4, release: 0.5 } },
      { name: "A whole section", params: { motion: 65, width: 70 } },
    ],
  },
  "Organ and reeds": {
    controls: ["brightness", "body", "attack", "release", "motion", "drive"],
    presets: [
      { name: "Turning slowly", params: { motion: 55 } },
      { name: "Stops half in", params: { brightness: -45, body: 20 } },
      { name: "Overblown", params: { drive: 60, brightness: 15 } },
    ],
  },
  Effects: {
    controls: ["brightness", "attack", "release", "motion", "drive", "width"],
    presets: [
      { name: "Long and slow", params: { attack: 8, release: 3 } },
      { name: "Short and sharp", params: { brightness: 40, release: 0.4 } },
      { name: "All round", params: { motion: 60, width: 90 } },
    ],
  },
});

/** What shapes a sound: what its category has, and its breath where it has one. */
export function controlsOf(category: string, design?: Design): readonly SoundControl[] {
  const { controls } = CATEGORIES[category]!;
  return design?.breath ? [...controls, "breath"] : controls;
}

/** Values of ours for the sounds of a category. */
export const shapesFor = (category: string) => CATEGORIES[category]?.presets ?? [];
