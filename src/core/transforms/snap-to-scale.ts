import { keyName, snapPitch } from "../pitch";
import { param, params } from "../params";
import { counted, defineTransform } from "./kit";

const DIRECTIONS = ["nearest", "up", "down"] as const;

/** Each pitch goes to the nearest tone of the key, ties downward; or always up, or always down. */
export const snapToScale = defineTransform({
  label: "Snap to scale",
  family: "line",
  example: {
    notes: [
      [0, 480, 60, 96],
      [960, 480, 63, 96],
      [1920, 480, 66, 96],
      [2880, 480, 67, 96],
    ],
  },
  about: "Pulls notes outside the key into it",
  schema: params({ direction: param.choice("Direction", DIRECTIONS) }),
  defaults: { direction: "nearest" as string },
  run(selected, { direction }, context) {
    const drums = context.kind === "drums";
    return {
      replaced: selected.map((note) =>
        drums
          ? note
          : { ...note, pitch: snapPitch(context.key, note.pitch, direction as "nearest") },
      ),
      sentence: (counts) =>
        drums
          ? "Drum hits have no key, none changed"
          : `${counted(counts.moved, context)} of ${selected.length} pulled into ${keyName(context.key)}`,
    };
  },
});
