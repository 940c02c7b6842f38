import * as yup from "yup";
import { soundingTracks } from "../playback/voices";
import { LIMITS } from "../score/model";
import { plural } from "../words";
import { options, type Format } from "./format";
import { readSmf } from "./smf-read";
import { writeSmfReported } from "./smf-write";

/** “MThd”, the head of a Standard MIDI File (SMF 1.0, “Header Chunks”). */
const HEAD = [0x4d, 0x54, 0x68, 0x64];

/** As many rounds as a menu offers: of what changes from round to round. */
const ROUNDS = 8;

/** Standard MIDI File 1.0. */
export const midi: Format = {
  label: "MIDI file",
  extensions: ["mid", "midi"],
  type: "audio/midi",
  words: "midi mid smf notes",
  reader: {
    matches: (bytes) => HEAD.every((byte, i) => bytes[i] === byte),
    read(bytes, name) {
      const { project, report } = readSmf(bytes, name);
      return { project, samples: [], notKept: report.notKept };
    },
  },
  writer: {
    options: options({
      pattern: yup.string().strict().max(64).label("Pattern"),
      rounds: yup.number().strict().integer().min(1).max(LIMITS.times).label("Rounds"),
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
    write(project, { pattern, rounds }) {
      const id = pattern as string | undefined;
      const { bytes: body, notKept } = writeSmfReported(project, {
        ...(id !== undefined && { pattern: id }),
        ...(id !== undefined && { rounds: (rounds as number | undefined) ?? 1 }),
      });
      const silent = project.tracks.length - soundingTracks(project).length;
      return {
        body,
        suffix: project.patterns.find((p) => p.id === id)?.name ?? "",
        notKept: silent > 0 ? [`${plural(silent, "silent track")} left out`, ...notKept] : notKept,
      };
    },
  },
};
