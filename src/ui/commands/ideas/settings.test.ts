import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { type ParamMeta, isShown } from "@/core/params";
import { type ChordMark, createProject, makeNote } from "@/core/score";
import { ROLES, generateIdeas } from "@/core/generate";
import { TAPS, type Settings } from "../../state/ideas";
import { createSession } from "../../state/store";
import { IDEA_FIELDS, LINE_FIELDS, MELODY_CHOICES } from "./fields";
import { isIdle } from "./settings";
import { lineOptions } from "./wishes";
import { settingsOf } from "./ideas";

const BAR = 3840;
const PART = { pattern: "a", track: "bass" };
const HELD = [0, 480, 1440, 2400, 3840, 5280, 6240].map((start, i) =>
  makeNote({ id: `n${i}`, start, length: 400, pitch: 40 + i }),
);
/** Chords that move, so that a bass has roots to step into. */
const CHORDS = ["Cm", "Fm", "G7", "Cm"].map((name, i): ChordMark => ({
  id: `c${i}`,
  start: (i * BAR) / 2,
  name,
  inversion: 0,
  spread: "close",
}));

const { part } = IDEA_FIELDS;

function setUp(rhythmKept: boolean) {
  const chorded = edits.setNotes(createProject({ bars: 4 }), PART, HELD);
  const project = {
    ...chorded,
    patterns: chorded.patterns.map((pattern) => ({ ...pattern, chords: CHORDS })),
  };
  const store = createSession("x", project);
  store.getState().setTrack("bass");
  const { ideas, setIdeas } = store.getState();
  setIdeas({ keep: { ...ideas.keep, rhythm: rhythmKept } });
  return store.getState();
}

/** Whether lines of some seeds are others with another value. */
function counts(
  state: ReturnType<typeof setUp>,
  settings: Settings,
  id: keyof Settings,
  values: readonly unknown[],
) {
  const notes = (value: unknown, seed: number) => {
    const asked = lineOptions(state, { ...settings, [id]: value, seed }, { bars: 4, count: 1 });
    return JSON.stringify(generateIdeas(asked)[0]!.notes);
  };
  return Array.from({ length: 12 }, (_, i) => i * 13).some((seed) =>
    values.some((value) => notes(value, seed) !== notes(values[0], seed)),
  );
}

describe("what has no say in a line", () => {
  for (const rhythmKept of [false, true])
    it.each(ROLES)(
      `is not offered, and all that is offered has one: a %s${rhythmKept ? ", its rhythm kept" : ""}`,
      (role) => {
        const state = setUp(rhythmKept);
        const usual = {
          ...settingsOf(state),
          role,
          source: TAPS,
          taps: [0, 480, 960],
          low: 40,
          high: 64,
        };
        const forms = role === "melody" ? ["period", "motif"] : ["period"];
        for (const form of forms)
          for (const how of ["", "follow", "answer", "interlock"]) {
            const settings: Settings = {
              ...usual,
              form,
              how,
              rests: 40,
              density: 60,
              voices: role === "melody" ? 1 : 4,
            };
            const fields = [
              ...LINE_FIELDS.filter((id) =>
                isShown((part[id].meta ?? {}) as ParamMeta, { role }),
              ).map((id) => {
                const { min, max } = part[id].meta as unknown as { min: number; max: number };
                return { id, values: [min, max] as unknown[] };
              }),
              ...(role === "melody" ? MELODY_CHOICES : [])
                .filter((id) => id !== "form")
                .map((id) => ({ id, values: [...part[id].oneOf] as unknown[] })),
              { id: "loudest" as const, values: [90, 120] },
              ...(role === "pad"
                ? []
                : [
                    {
                      id: "weights" as const,
                      values: [settings.weights, [0, 1, 0, 0, 0, 0, 3, 0, 0]],
                    },
                  ]),
            ];
            for (const { id, values } of fields)
              expect(
                counts(state, settings, id, values),
                `${id}: ${form}, ${how || "of its own"}`,
              ).toBe(!isIdle(id, settings, rhythmKept));
          }
      },
    );
});
