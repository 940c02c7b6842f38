import * as yup from "yup";
import { plural } from "../../base";
import { LIMITS } from "../../score";
import { param } from "../../params";
import { soundingTracks } from "../../playback";
import { narrowed } from "../../edits";
import { options, type Format } from "../common/format";
import { readSmf } from "./read";
import { writeSmfReported } from "./write";

/** “MThd”, the head of a Standard MIDI File (SMF 1.0, “Header Chunks”). */
const HEAD = [0x4d, 0x54, 0x68, 0x64];

/** As many rounds as a menu offers: of what changes from round to round. */
const ROUNDS = 8;

const KINDS = ["tracks apart (1)", "all in one (0)"] as const;

const numbers = (list: unknown): number[] | undefined =>
  typeof list === "string" && list !== "" ? list.split(" ").map(Number) : undefined;

/** Standard MIDI File 1.0. */
export const midi: Format = {
  label: "MIDI file",
  extensions: ["mid", "midi"],
  type: "audio/midi",
  words: "midi mid smf notes",
  about: "Notes, tempo, metre, bends and levels, for any other program",
  reader: {
    matches: (bytes) => HEAD.every((byte, i) => bytes[i] === byte),
    read(bytes, name, options) {
      const { project, report } = readSmf(bytes, name, options);
      const { notKept, pedal, encoding } = report;
      const asked = { ...(pedal && { pedal }), ...(encoding && { encoding }) };
      return { project, samples: [], notKept, ...asked };
    },
  },
  writer: {
    options: options({
      pattern: yup.string().strict().max(64).label("Pattern"),
      rounds: yup.number().strict().integer().min(1).max(LIMITS.times).label("Rounds"),
      format: yup.number().strict().oneOf([0, 1]).label("Format"),
      track: yup.string().strict().max(64).label("Track"),
      lane: yup.number().strict().integer().min(0).max(127).label("Lane"),
      /** Two ticks with a space between. */
      range: yup
        .string()
        .strict()
        .matches(/^\d{1,12} \d{1,12}$/, "must be two ticks")
        .label("Range"),
      /** Ids of notes of the pattern's part. */
      notes: yup.array(yup.string().strict().max(64)).strict().label("Notes"),
    }),
    choices: [
      {
        id: "pattern",
        label: "this pattern as MIDI",
        options: ({ pattern }) => ({ pattern }),
      },
      {
        id: "rounds",
        label: `the pattern ${ROUNDS} times as MIDI`,
        options: ({ pattern }) => ({ pattern, rounds: ROUNDS }),
      },
      { id: "all", label: "the song (or all patterns) as MIDI", options: () => ({}) },
    ],
    withSamples: false,
    write(whole, { pattern, rounds, format, track, lane, range, notes }) {
      const id = pattern as string | undefined;
      const project =
        typeof track === "string"
          ? narrowed(whole, {
              track,
              ...(typeof lane === "number" && { lane }),
              ...(id !== undefined &&
                Array.isArray(notes) && { notes: { pattern: id, ids: new Set<string>(notes) } }),
            })
          : whole;
      const ticks = numbers(range);
      const { bytes: body, notKept } = writeSmfReported(project, {
        ...(id !== undefined && { pattern: id }),
        ...(id !== undefined && { rounds: (rounds as number | undefined) ?? 1 }),
        ...(ticks && { range: [ticks[0]!, ticks[1]!] }),
        format: format === 0 ? 0 : 1,
      });
      const silent = project.tracks.length - soundingTracks(project).length;
      const name = (list: readonly { id: string; name: string }[], wanted: unknown) =>
        list.find((one) => one.id === wanted)?.name;
      return {
        body,
        suffix: [name(whole.patterns, id), name(whole.tracks, track)].filter(Boolean).join(" "),
        notKept: silent > 0 ? [`${plural(silent, "silent track")} left out`, ...notKept] : notKept,
      };
    },
  },
  asks: {
    extents: ["pattern", "song", "range", "track", "lane", "selection"],
    schema: yup.object({
      kind: param.choice("Tracks", KINDS),
      rounds: param.whole("Rounds of the pattern", 1, 99),
    }),
    defaults: { kind: KINDS[0], rounds: 1 },
    options({ kind, rounds }, extent, { pattern, track, lane, selection, range }) {
      const format = kind === KINDS[1] ? 0 : 1;
      const one = { format, pattern, rounds };
      if (extent === "song") return { format };
      if (extent === "pattern") return one;
      if (extent === "range") {
        if (!range) return one;
        const ticks = range.ticks.join(" ");
        return { format, range: ticks, ...(range.pattern !== null && { pattern, rounds }) };
      }
      const own = { ...one, track };
      if (extent === "lane" && lane !== null) return { ...own, lane };
      return extent === "selection" ? { ...own, notes: [...selection] } : own;
    },
  },
};
