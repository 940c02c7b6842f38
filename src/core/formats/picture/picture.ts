import { type MidiPitch, type Ticks, nth, mustGet, lastOf } from "../../base";
import { barTicks, beatTicks } from "../../time";
import { keyName, padName, pitchName } from "../../pitch";
import { type Pattern, type Project, type Track, metreOf, patternTicks } from "../../score";
import { playbackEvents } from "../../playback";
import { escaped } from "../common/xml";
import { PICTURE_COLOURS, type PictureColours } from "./colours";

export interface PictureOptions {
  /** In pixels, names included. */
  width?: number;
  colours?: PictureColours;
  /** Whether names, bars and a heading stand beside; without them it is the notes alone. */
  names?: boolean;
}

/** A row of the picture. */
interface Row {
  y: number;
  height: number;
  name: string;
}

interface Hit {
  start: Ticks;
  length: Ticks;
  velocity: number;
  row: Row;
}

interface Block {
  track: Track;
  colour: string;
  y: number;
  height: number;
  rows: Row[];
  hits: Hit[];
}

const NAMES = 128;
const HEADING = 46;
const RULER = 20;
const GAP = 14;
const LANE = 22;
const PITCH = 7;
const EDGE = 10;

const fixed = (n: number) => Number(n.toFixed(2));

/**
 * A pattern as a drawing (SVG 1.1): tracks with their lanes or pitches, a stone for each note, as large as it is
 * loud, with a tail as long as it sounds. Hits by chance or in some loops are all there. Throws a RangeError for
 * a pattern that is not there.
 */
export function patternPicture(
  project: Project,
  patternId: string,
  { width = 1280, colours = PICTURE_COLOURS.light, names = true }: PictureOptions = {},
): string {
  const pattern = project.patterns.find((pattern) => pattern.id === patternId);
  if (!pattern) throw new RangeError(`“${patternId}” is no pattern of this project`);
  const left = names ? NAMES : EDGE;
  const top = names ? HEADING + RULER : EDGE;
  const ticks = patternTicks(project, pattern);
  const blocks = blocksOf(project, pattern, ticks, top, colours);
  const bottom = blocks.reduce((most, { y, height }) => Math.max(most, y + height), top + LANE);
  const height = bottom + EDGE;
  const x = (tick: Ticks) => left + (tick / ticks) * (width - left - EDGE);
  const metre = metreOf(project, pattern);
  const [bar, beat] = [barTicks(metre), beatTicks(metre)];
  const shapes: string[] = [`<rect width="${width}" height="${height}" fill="${colours.ground}"/>`];
  for (let at = 0, k = 0; at < ticks; at += beat, k++) {
    const inBar = Math.floor((at % bar) / beat);
    if (inBar % 2 === 0)
      shapes.push(
        rect(x(at), top, x(Math.min(ticks, at + beat)) - x(at), bottom - top, colours.beat),
      );
  }
  let [bars, rows] = ["", ""];
  for (let at = 0; at <= ticks; at += bar) bars += `M${fixed(x(at))} ${top}V${fixed(bottom)}`;
  for (const block of blocks)
    for (const { y, height: own } of block.track.kind === "drums" ? block.rows : [])
      rows += `M${left} ${fixed(y + own / 2)}H${width - EDGE}`;
  shapes.push(
    `<path d="${rows}" stroke="${colours.line}" stroke-width="0.6" fill="none"/>`,
    `<path d="${bars}" stroke="${colours.line}" stroke-width="1.2" fill="none"/>`,
  );
  for (const block of blocks) shapes.push(...stones(block, x));
  if (names) shapes.push(...texts(project, pattern, blocks, { colours, x, bar, ticks, top }));
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${fixed(height)}" viewBox="0 0 ${width} ${fixed(height)}">\n<title>${escaped(`${project.name}, ${pattern.name}`)}</title>\n${shapes.join("\n")}\n</svg>\n`;
}

const rect = (x: number, y: number, width: number, height: number, fill: string) =>
  `<rect x="${fixed(x)}" y="${fixed(y)}" width="${fixed(width)}" height="${fixed(height)}" fill="${fill}"/>`;

function blocksOf(
  project: Project,
  pattern: Pattern,
  ticks: Ticks,
  top: number,
  colours: PictureColours,
): Block[] {
  // As if every hit sounded in every loop.
  const certain: Project = {
    ...project,
    patterns: [
      {
        ...pattern,
        parts: pattern.parts.map((part) => ({
          ...part,
          notes: part.notes.map(({ chance: _, when: __, ...note }) => note),
        })),
      },
    ],
  };
  const events = playbackEvents(certain, 0, ticks, { pattern: pattern.id, loop: false, all: true });
  let y = top;
  return project.tracks.flatMap((track, i) => {
    const own = events.filter((event) => event.track === track.id);
    if (own.length === 0) return [];
    const pitches = [...new Set(own.map((event) => event.pitch))].sort((a, b) => b - a);
    const from = y + GAP / 2;
    const rows = track.kind === "drums" ? laneRows(track, pitches, from) : pitchRows(pitches, from);
    const height =
      [...rows.values()].reduce((sum, row) => Math.max(sum, row.y + row.height), from) - y;
    const block = {
      track,
      colour: nth(colours.tracks, i % colours.tracks.length),
      y,
      height: height + GAP / 2,
    };
    y += block.height;
    const hits = own.map(({ start, length, velocity, pitch }) => ({
      start,
      length: Math.min(length, ticks - start),
      velocity,
      row: mustGet(rows, pitch),
    }));
    return [{ ...block, rows: [...new Set(rows.values())], hits }];
  });
}

/** A row for each lane in the order of the kit, then for hits on other pads. */
function laneRows(track: Track, pitches: readonly MidiPitch[], from: number): Map<MidiPitch, Row> {
  const order = new Map(track.lanes.map(({ pitch }, i) => [pitch, i]));
  const sorted = [...pitches].sort((a, b) => (order.get(a) ?? 999 + a) - (order.get(b) ?? 999 + b));
  const name = (pitch: MidiPitch) =>
    track.lanes.find((lane) => lane.pitch === pitch)?.name ?? padName(pitch);
  return new Map(
    sorted.map((pitch, i) => [pitch, { y: from + i * LANE, height: LANE, name: name(pitch) }]),
  );
}

/** A row for each semitone of the range. */
function pitchRows(pitches: readonly MidiPitch[], from: number): Map<MidiPitch, Row> {
  const highest = nth(pitches, 0);
  const ends = new Set([highest, lastOf(pitches)]);
  return new Map(
    pitches.map((pitch) => [
      pitch,
      {
        y: from + (highest - pitch) * PITCH,
        height: PITCH * 2,
        name: ends.has(pitch) ? pitchName(pitch) : "",
      },
    ]),
  );
}

function* stones({ track, colour, hits }: Block, x: (tick: Ticks) => number): Generator<string> {
  let [tails, dots] = ["", ""];
  for (const { start, length, velocity, row } of hits) {
    const [at, middle] = [x(start), row.y + row.height / 2];
    const radius = fixed(1.6 + ((row.height / 2 - 2.4) * velocity) / 127);
    if (track.kind === "melody")
      tails += `M${fixed(at)} ${fixed(middle)}H${fixed(Math.max(at, x(start + length) - 1))}`;
    dots += `M${fixed(at - radius)} ${fixed(middle)}a${radius} ${radius} 0 1 0 ${2 * radius} 0a${radius} ${radius} 0 1 0 ${-2 * radius} 0`;
  }
  if (tails)
    yield `<path d="${tails}" stroke="${colour}" stroke-width="3" stroke-opacity="0.45" fill="none"/>`;
  yield `<path d="${dots}" fill="${colour}"/>`;
}

interface Frame {
  colours: PictureColours;
  x(tick: Ticks): number;
  bar: Ticks;
  ticks: Ticks;
  top: number;
}

function* texts(
  project: Project,
  pattern: Pattern,
  blocks: readonly Block[],
  { colours, x, bar, ticks, top }: Frame,
): Generator<string> {
  const { beats, unit } = metreOf(project, pattern);
  const about = `${pattern.name} · ${project.tempo} BPM · ${beats}/${unit} · ${keyName(project.key)}`;
  yield `<g font-family="Instrument Sans, Helvetica, Arial, sans-serif">`;
  yield `<text x="${EDGE}" y="22" font-size="17" font-weight="600" fill="${colours.text}">${escaped(project.name)}</text>`;
  yield `<text x="${EDGE}" y="40" font-size="12" fill="${colours.quiet}">${escaped(about)}</text>`;
  for (let at = 0, k = 1; at < ticks; at += bar, k++)
    yield `<text x="${fixed(x(at) + 3)}" y="${top - 6}" font-size="11" fill="${colours.quiet}">${k}</text>`;
  for (const { track, colour, y, rows } of blocks) {
    yield `<rect x="0" y="${fixed(y + GAP / 2)}" width="4" height="${fixed(Math.max(LANE, (rows.at(-1)?.y ?? y) + (rows.at(-1)?.height ?? 0) - y - GAP / 2))}" fill="${colour}"/>`;
    if (track.kind === "melody")
      yield `<text x="${EDGE}" y="${fixed(y + GAP / 2 + 12)}" font-size="12" font-weight="600" fill="${colours.text}">${escaped(track.name)}</text>`;
    for (const { name, y: at, height } of rows) {
      if (!name) continue;
      const anchor = track.kind === "melody" ? `x="${NAMES - 8}" text-anchor="end"` : `x="${EDGE}"`;
      yield `<text ${anchor} y="${fixed(at + height / 2 + 4)}" font-size="11" fill="${colours.quiet}">${escaped(name)}</text>`;
    }
  }
  yield "</g>";
}
