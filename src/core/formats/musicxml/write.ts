import { PPQ } from "../../time";
import { parseChord } from "../../pitch";
import type { Project, Track } from "../../score";
import { type PlaybackEvent, lineTooLong, playbackEvents } from "../../playback";
import { programOf } from "../common/programs";
import { Losses } from "../import/losses";
import { drumsOf, legend, type Drum } from "./drums";
import { measuresOf, type Measure } from "./measures";
import { notate, type Piece } from "./notate";
import { ACCIDENTALS, FORTE, KINDS, signature, signatureAlter, spelled } from "./pitches";
import { element as el } from "../common/xml";
import { must, nth } from "../../base";

export interface MusicXmlOptions {
  /** Only this pattern; else the song, or without one all patterns in order. */
  pattern?: string;
  /** The smallest note value written. */
  smallest?: 8 | 16 | 32;
  /** Whether beats may be divided in three. */
  triplets?: boolean;
}

/** Parts of a quarter that durations are counted in: halves, thirds and eighths of it, and of those. */
const DIVISIONS = 24;
const TICKS = PPQ / DIVISIONS;

const TYPES: Readonly<Record<number, string>> = {
  1: "whole",
  2: "half",
  4: "quarter",
  8: "eighth",
  16: "16th",
  32: "32nd",
  64: "64th",
};

/** Marks of loudness by the mean velocity from which they hold (common practice). */
const MARKS = [
  [0, "pp"],
  [36, "p"],
  [56, "mp"],
  [72, "mf"],
  [92, "f"],
  [112, "ff"],
] as const;

/**
 * The project as a score (MusicXML 4.0, score-partwise): a part for each track that sounds, on steps that a person
 * would write. What sounds earlier or later than it is written says so, in attributes. Throws a RangeError for a
 * pattern that is not there, and for more than can be written.
 */
export function writeMusicXml(
  project: Project,
  options: MusicXmlOptions = {},
): { text: string; notKept: string[] } {
  const { pattern } = options;
  const long = lineTooLong(project, pattern);
  if (long) throw new RangeError(long);
  const measures = measuresOf(project, pattern);
  const end = measures.reduce((sum, { length }) => sum + length, 0);
  const events = playbackEvents(project, 0, end, { pattern, loop: false });
  const lost = new Losses();
  const parts = project.tracks.flatMap((track, i) => {
    const own = events.filter((event) => event.track === track.id);
    return own.length === 0
      ? []
      : [partOf(project, track, `P${i + 1}`, own, measures, options, lost)];
  });
  if (parts.length === 0) throw new RangeError("Nothing sounds there: a score would be empty");
  // The tempo and the chords stand over the first part.
  const text = [
    `<?xml version="1.0" encoding="UTF-8" standalone="no"?>`,
    `<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">`,
    el(
      "score-partwise",
      [
        el("work", [el("work-title", project.name)]),
        el("identification", [el("encoding", [el("software", "Hailstep")])]),
        el(
          "part-list",
          parts.map(({ listed }) => listed),
        ),
        ...parts.map(({ id, bars }, p) =>
          el(
            "part",
            bars.map((bar, m) =>
              el("measure", [bar.attributes, ...(p === 0 ? bar.over : []), ...bar.notes], {
                number: m + 1,
              }),
            ),
            { id },
          ),
        ),
      ],
      { version: "4.0" },
    ),
  ].join("\n");
  return { text: `${text}\n`, notKept: lost.sentences() };
}

interface Bar {
  attributes: string;
  /** What stands over the first part alone: tempo, section, chords. */
  over: string[];
  notes: string[];
}

function partOf(
  project: Project,
  track: Track,
  id: string,
  events: readonly PlaybackEvent[],
  measures: readonly Measure[],
  { smallest = 16, triplets = true }: MusicXmlOptions,
  lost: Losses,
): { id: string; listed: string; bars: Bar[] } {
  const hits = track.kind === "drums";
  const { bars, lost: dropped } = notate(events, measures, { smallest, triplets, hits });
  lost.add("note", "of a fifth voice at once", dropped);
  lost.add("note", "written without pan, tune or slide", events.filter(isOwn).length);
  const drums = hits ? drumsOf([...new Set(events.map((event) => event.pitch))], track.lanes) : [];
  const { fifths, mode } = signature(project.key);
  const low = !hits && median(events.map((event) => event.pitch)) < 57;
  let [metre, tempo, mark, next] = ["", 0, "", 0];
  const written = measures.map((measure, m): Bar => {
    const text = `${measure.metre.beats}/${measure.metre.unit}`;
    const first = m === 0;
    const attributes = [
      ...(first ? [el("divisions", DIVISIONS)] : []),
      ...(first
        ? [
            el("key", [
              el("fifths", hits ? 0 : fifths),
              ...(mode && !hits ? [el("mode", mode)] : []),
            ]),
          ]
        : []),
      ...(text !== metre
        ? [el("time", [el("beats", measure.metre.beats), el("beat-type", measure.metre.unit)])]
        : []),
      ...(first ? [clef(hits, low)] : []),
    ];
    const over = [
      ...(measure.section !== null ? [direction(el("rehearsal", measure.section))] : []),
      ...(measure.tempo !== tempo ? [tempoMark(measure)] : []),
      ...measure.chords.flatMap(({ tick, name }) => harmony(name, tick)),
    ];
    [metre, tempo] = [text, measure.tempo];
    const notes: string[] = [];
    if (first && drums.length > 0) notes.push(direction(el("words", legend(drums))));
    // Events are in order: those of a bar lie beside each other.
    while (next < events.length && nth(events, next).start < measure.at) next++;
    const from = next;
    while (next < events.length && nth(events, next).start < measure.at + measure.length) next++;
    const loud = events.slice(from, next);
    const wanted = loud.length > 0 ? markOf(loud) : mark;
    if (wanted !== mark) notes.push(direction(el("dynamics", [el(wanted)]), "below"));
    mark = wanted;
    nth(bars, m).forEach((voice, v) => {
      if (v > 0) notes.push(el("backup", [el("duration", measure.length / TICKS)]));
      const signs = new Map<string, number>();
      for (const piece of voice) {
        notes.push(...noted(piece, v + 1, { id, drums, key: project.key, fifths, signs }));
      }
    });
    return {
      attributes: attributes.length > 0 ? el("attributes", attributes) : "",
      over,
      notes,
    };
  });
  return { id, listed: listed(track, id, drums), bars: written };
}

const isOwn = ({ pan, tune, slide }: PlaybackEvent) => pan !== 0 || tune !== 0 || slide;

const median = (list: readonly number[]) =>
  nth(
    [...list].sort((a, b) => a - b),
    Math.floor(list.length / 2),
  );

const markOf = (events: readonly PlaybackEvent[]): string => {
  const mean = events.reduce((sum, { velocity }) => sum + velocity, 0) / events.length;
  return must(MARKS.findLast(([from]) => mean >= from))[1];
};

const direction = (content: string, placement: "above" | "below" = "above") =>
  el("direction", [el("direction-type", [content])], { placement });

const clef = (hits: boolean, low: boolean) =>
  hits
    ? el("clef", [el("sign", "percussion"), el("line", 2)])
    : el("clef", low ? [el("sign", "F"), el("line", 4)] : [el("sign", "G"), el("line", 2)]);

/** A tempo in quarters a minute, shown in the beats of the bar. */
function tempoMark({ tempo, beat }: Measure): string {
  const dotted = beat === PPQ * 1.5;
  const unit = dotted ? "quarter" : (TYPES[(4 * PPQ) / beat] ?? "quarter");
  const beats = (tempo * PPQ) / (dotted || TYPES[(4 * PPQ) / beat] ? beat : PPQ);
  return el(
    "direction",
    [
      el("direction-type", [
        el("metronome", [
          el("beat-unit", unit),
          ...(dotted ? [el("beat-unit-dot")] : []),
          el("per-minute", Number(beats.toFixed(2))),
        ]),
      ]),
      el("sound", [], { tempo }),
    ],
    { placement: "above" },
  );
}

/** A chord's symbol over the bar; nothing for a name that is no chord. */
function harmony(name: string, tick: number): string[] {
  const found = /^([A-G])(##?|bb?)?(.*?)(?:\/([A-G])(##?|bb?)?)?$/.exec(name);
  if (!found || !parseChord(name)) return [];
  const [, step, sign = "", suffix = "", bass, bassSign = ""] = found;
  const alter = (text: string) => [...text].reduce((sum, c) => sum + (c === "#" ? 1 : -1), 0);
  const kind = KINDS.find(([ending]) => ending === suffix)?.[1] ?? "other";
  const named = (tag: string, letter: string, signs: string) =>
    el(tag, [el(`${tag}-step`, letter), ...(signs ? [el(`${tag}-alter`, alter(signs))] : [])]);
  return [
    el("harmony", [
      named("root", step!, sign),
      el("kind", kind, { text: suffix || undefined }),
      ...(bass ? [named("bass", bass, bassSign)] : []),
      ...(tick > 0 ? [el("offset", Math.round(tick / TICKS))] : []),
    ]),
  ];
}

function listed(track: Track, id: string, drums: readonly Drum[]): string {
  const level = {
    volume: Math.round(Math.min(100, 80 * 10 ** (track.level / 40))),
    pan: Math.round(track.pan * 90),
  };
  const midi = (own: string, more: readonly string[]) =>
    el("midi-instrument", [...more, el("volume", level.volume), el("pan", level.pan)], { id: own });
  return el(
    "score-part",
    [
      el("part-name", track.name),
      ...(drums.length > 0
        ? drums.map(({ pitch, name }) =>
            el("score-instrument", [el("instrument-name", name)], { id: `${id}-I${pitch}` }),
          )
        : [el("score-instrument", [el("instrument-name", track.name)], { id: `${id}-I1` })]),
      ...(drums.length > 0
        ? drums.map(({ pitch }) =>
            midi(`${id}-I${pitch}`, [el("midi-channel", 10), el("midi-unpitched", pitch + 1)]),
          )
        : [midi(`${id}-I1`, [el("midi-program", programOf(track.sound) + 1)])]),
    ],
    { id },
  );
}

interface Frame {
  id: string;
  drums: readonly Drum[];
  key: Project["key"];
  fifths: number;
  /** Signs in force in this bar, by letter and octave. */
  signs: Map<string, number>;
}

const THREE =
  "<time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>";
const BEGINS = `<tuplet type="start" bracket="yes"/>`;
const ENDS = `<tuplet type="stop"/>`;

/** The notes of a piece, or a rest. There may be tens of thousands: they are written as text at once. */
function noted(piece: Piece, voice: number, frame: Frame): string[] {
  const { value, tuplet, length, events, tied } = piece;
  const three = tuplet ? THREE : "";
  const marks = tuplet ? `${tuplet.begins ? BEGINS : ""}${tuplet.ends ? ENDS : ""}` : "";
  const duration = `<duration>${Math.round(length / TICKS)}</duration>`;
  const written = `<voice>${voice}</voice><type>${TYPES[value.value]}</type>${value.dots ? "<dot/>" : ""}`;
  if (events.length === 0) {
    const notations = marks ? `<notations>${marks}</notations>` : "";
    return [`<note><rest/>${duration}${written}${three}${notations}</note>`];
  }
  const ties = `${tied.from ? '<tie type="stop"/>' : ""}${tied.on ? '<tie type="start"/>' : ""}`;
  const bows = ties.replaceAll("<tie ", "<tied ");
  return events.map((event, i) => {
    const { pitch, velocity, start } = event;
    const drum = frame.drums.find((one) => one.pitch === pitch);
    const attack = tied.from ? "" : off(start - piece.at, "attack");
    const release = tied.on ? "" : off(start + event.length - piece.at - length, "release");
    const notations = `${bows}${i === 0 ? marks : ""}`;
    const sign = drum || tied.from ? "" : accidental(pitch, frame);
    const head =
      drum && drum.place.head !== "normal" ? `<notehead>${drum.place.head}</notehead>` : "";
    return [
      `<note dynamics="${Math.round((10_000 * velocity) / FORTE) / 100}"${attack}${release}>`,
      i > 0 ? "<chord/>" : "",
      drum ? unpitched(drum) : pitched(pitch, frame),
      duration,
      ties,
      drum ? `<instrument id="${frame.id}-I${pitch}"/>` : "",
      written,
      sign,
      three,
      head,
      notations ? `<notations>${notations}</notations>` : "",
      "</note>",
    ].join("");
  });
}

/** How far what sounds is from what is written, in divisions; nothing where it is there. */
const off = (ticks: number, name: "attack" | "release") =>
  ticks === 0 ? "" : ` ${name}="${Math.round((10_000 * ticks) / TICKS) / 10_000}"`;

const unpitched = ({ place }: Drum) =>
  el("unpitched", [el("display-step", place.step), el("display-octave", place.octave)]);

function pitched(pitch: number, { key }: Frame): string {
  const { step, alter, octave } = spelled(key, pitch);
  const by = alter === 0 ? "" : `<alter>${alter}</alter>`;
  return `<pitch><step>${step}</step>${by}<octave>${octave}</octave></pitch>`;
}

/** The sign before a note, where the key signature and what stands before it in the bar do not say it. */
function accidental(pitch: number, { key, fifths, signs }: Frame): string {
  const { step, alter, octave } = spelled(key, pitch);
  const at = `${step}${octave}`;
  const now = signs.get(at) ?? signatureAlter(fifths, step);
  signs.set(at, alter);
  return now === alter ? "" : `<accidental>${ACCIDENTALS[alter]}</accidental>`;
}
