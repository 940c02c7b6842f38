import { createHash } from "node:crypto";
import { expect, it } from "vitest";
import { grid } from "../time";
import { generateProgressions } from "./chords/progressions";
import { generateDrumIdeas } from "./drums/ideas";
import { generateIdeas } from "./ideas";
import { PHRASE_DEFAULTS } from "./phrase/options";

/** Notes as a short sign: what changes it changes what users had. */
const sign = (ideas: readonly { notes: readonly object[] }[]) =>
  createHash("sha256")
    .update(JSON.stringify(ideas.map(({ notes }) => notes)))
    .digest("hex")
    .slice(0, 12);

it("the same settings and seed give the same notes in every process; a change of that is told in docs/decisions.md", () => {
  const line = { key: { root: 9, scale: "minor" }, bars: 4, low: 57, high: 81, seed: 41 };
  const lanes = [36, 38, 42, 46].map((pitch) => ({ pitch, grid: grid(16), period: null }));
  expect({
    phrases: sign(generateIdeas({ ...line, phrases: PHRASE_DEFAULTS })),
    bass: sign(generateIdeas({ ...line, low: 33, high: 55, role: "bass" })),
    stabs: sign(generateIdeas({ ...line, role: "stabs", voices: 4 })),
    drums: sign(generateDrumIdeas({ lanes, bars: 2, style: "straight", fill: 1, seed: 41 })),
    chords: sign(generateProgressions({ seed: 41 })),
  }).toMatchInlineSnapshot(`
    {
      "bass": "fd71897cf0ce",
      "chords": "982050ff2efd",
      "drums": "ae61faaf6cb9",
      "phrases": "b500ea8611fd",
      "stabs": "9501cae79399",
    }
  `);
});
