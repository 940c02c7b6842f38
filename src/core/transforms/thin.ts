import { seeded } from "../base";
import { param, params } from "../params";
import { beatOf, counted, defineTransform } from "./kit";

const KEEPS = ["nothing", "first beats", "beats"] as const;

/** Drops each note with a chance; the first beat of each bar, or every beat, may be kept. */
export const thin = defineTransform({
  label: "Thin",
  family: "rhythm",
  example: { params: { chance: 60, keep: "beats", seed: 2 } },
  about: "Leaves out hits by chance",
  schema: params({
    chance: param.number("Chance", 0, 100, { unit: "%" }),
    keep: param.choice("Always keep", KEEPS),
    seed: param.seed(),
  }),
  defaults: { chance: 30, keep: "beats" as string, seed: 1 },
  run(selected, p, context) {
    const random = seeded(p.seed);
    const replaced = selected.map((note) => {
      // Drawn for kept notes too, so that keeping beats does not change which others go.
      const drop = random() * 100 < p.chance;
      if (!drop) return note;
      const beat = p.keep === "nothing" ? null : beatOf(note, context);
      return beat === 1 || (beat !== null && p.keep === "beats") ? note : null;
    });
    return {
      replaced,
      sentence: (counts) =>
        `${counted(counts.removed, context)} of ${selected.length} left out, ${selected.length - counts.removed} stay`,
    };
  },
});
