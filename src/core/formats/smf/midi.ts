import { plural } from "../../base";
import { param } from "../../params";
import { soundingTracks } from "../../playback";
import { narrowed } from "../../edits";
import { defineFormat } from "../common/format";
import { rangeOf } from "../common/scope";
import { readSmf } from "./read";
import { writeSmfReported } from "./write";

/** “MThd”, the head of a Standard MIDI File (SMF 1.0, “Header Chunks”). */
const HEAD = [0x4d, 0x54, 0x68, 0x64];

/** As many loops as a menu offers: of what changes from loop to loop. */
const LOOPS = 8;

const KINDS = ["tracks apart (1)", "all in one (0)"] as const;

/** Standard MIDI File 1.0. */
export const midi = defineFormat({
  label: "MIDI file",
  extensions: ["mid", "midi"],
  type: "audio/midi",
  words: "midi mid smf notes",
  about: "Notes, tempo, metre, bends and levels, for any other program",
  extents: ["pattern", "song", "range", "track", "lane", "selection"],
  options: {
    kind: param.choice("Tracks", KINDS),
    rounds: param.whole("Loops of the pattern", 1, 99, {
      extents: ["pattern", "range", "track", "lane", "selection"],
    }),
  },
  defaults: { kind: KINDS[0] as string, rounds: 1 },
  choices: [
    { id: "pattern", label: "this pattern as MIDI", extent: "pattern" },
    {
      id: "rounds",
      label: `the pattern ${LOOPS} times as MIDI`,
      extent: "pattern",
      options: { rounds: LOOPS },
    },
    { id: "all", label: "the song (or all patterns) as MIDI", extent: "song" },
  ],
  reader: {
    matches: (bytes) => HEAD.every((byte, i) => bytes[i] === byte),
    read(bytes, name, options) {
      const { project, report } = readSmf(bytes, name, options);
      const { notKept, pedal, encoding } = report;
      const asked = { ...(pedal && { pedal }), ...(encoding && { encoding }) };
      return { project, samples: [], notKept, ...asked };
    },
  },
  write(whole, scope, { kind, rounds }) {
    const { pattern, track, lane, notes, beside = [] } = scope;
    const only = (ids?: readonly string[]) =>
      pattern !== undefined && ids ? { notes: { pattern, ids: new Set(ids) } } : {};
    const project =
      track !== undefined
        ? narrowed(
            whole,
            { track, ...(lane !== undefined && { lane }), ...only(notes) },
            ...beside.map((one) => ({ track: one.track, ...only(one.notes) })),
          )
        : whole;
    const range = rangeOf(scope);
    const { bytes: body, notKept } = writeSmfReported(project, {
      ...(pattern !== undefined && { pattern, loops: rounds }),
      ...(range && { range }),
      format: kind === KINDS[1] ? 0 : 1,
    });
    const silent = project.tracks.length - soundingTracks(project).length;
    const name = (list: readonly { id: string; name: string }[], wanted: unknown) =>
      list.find((one) => one.id === wanted)?.name;
    return {
      body,
      suffix: [name(whole.patterns, pattern), name(whole.tracks, track)].filter(Boolean).join(" "),
      notKept: silent > 0 ? [`${plural(silent, "silent track")} left out`, ...notKept] : notKept,
    };
  },
});
