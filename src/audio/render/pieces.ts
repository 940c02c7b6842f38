import { type Seconds, clamp, nth } from "@/core/base";
import { PLAIN_SEND_EFFECTS, SENDS, SEND_OFF, sendEffectTime } from "@/core/sound";
import type { Project } from "@/core/score";
import { BLOCK } from "../synth/block";
import { RINGS_ON } from "../strip/strip";
import type { PadRenderer } from "../pads/render";
import { rendering } from "./rendering";
import type { Stems } from "./stems";
import { handed, type Timeline } from "./timeline";

/** What is rendered, and how. */
export interface RenderJob {
  project: Project;
  timeline: Timeline;
  rate: number;
  /** Added at the end for what rings on. */
  tail: Seconds;
  /** Whether sound before 0 leads up to it, as in a loop that goes round. */
  leadIn: boolean;
  /** Several outputs at once; left out for the mix. */
  stems?: Stems;
  render: PadRenderer;
  /** Length of a piece in seconds, where another is wanted. */
  piece?: Seconds;
  /** How many pieces are rendered beside each other. */
  beside: number;
  signal?: AbortSignal;
  /** Told how much is done, 0–1. */
  onProgress?(done: number): void;
}

type Side = Float32Array<ArrayBuffer>;

/** A stretch of what is rendered: left and right of each output. */
export interface Piece {
  from: number;
  frames: number;
  outputs: (readonly [Side, Side])[];
}

/** No piece is shorter: what leads up to it would be more than itself. */
const SHORTEST: Seconds = 20;

/**
 * Pieces are so long: short enough to be held in memory, those of many outputs shorter; long beside what leads up to
 * each; and as many as are made beside each other, where there is enough for it.
 */
export function pieceSeconds(total: Seconds, outputs: number, beside: number): Seconds {
  const longest = clamp(240 / outputs, 30, 120);
  return Math.max(SHORTEST, Math.min(longest, total / beside));
}
/** So much is made at a time. */
const STRETCH: Seconds = 1;
/** Notes are handed over so much earlier than they are due. */
const GRACE: Seconds = 0.05;
/** Notes held longer than this begin anew with the piece. */
const LONGEST_NOTE: Seconds = 120;
/** What has sunk this far is forgotten, in dB. */
const FORGOTTEN = 100;

/** For so many seconds the strips and the room remember what sounded. */
export function memory(project: Project): Seconds {
  const sends = SENDS.filter((send) =>
    project.tracks.some(({ mix, kit }) =>
      [mix, ...(kit?.pads ?? [])].some((from) => (from?.[send] ?? SEND_OFF) > SEND_OFF),
    ),
  );
  const { tempo, room } = project;
  const { feedback } = { ...PLAIN_SEND_EFFECTS, ...room };
  const reverb =
    (sendEffectTime(room, "decay", tempo) * FORGOTTEN) / 60 +
    sendEffectTime(room, "preDelay", tempo);
  const rounds = feedback > 0 ? FORGOTTEN / (-20 * Math.log10(feedback / 100)) : 0;
  const echo = sendEffectTime(room, "echoTime", tempo) * (1 + Math.ceil(rounds));
  const ms = Math.max(0, ...sends.map((send) => (send === "reverb" ? reverb : echo)));
  // An echo may lead into the reverb of nothing: the two stand beside each other.
  return Math.min(40, RINGS_ON + ms / 1000);
}

/**
 * Renders piece by piece, through the same voices and mixer as live playing. Each piece begins early enough
 * that the room and held notes are as they would have been; where two meet nothing is heard or cut. Rejects
 * with the signal's reason when it is given up.
 */
export async function* renderPieces(asked: RenderJob): AsyncGenerator<Piece> {
  const { stems } = asked;
  const job = stems ? { ...asked, timeline: handed(asked.timeline, stems.owner) } : asked;
  const { rate, timeline, tail, beside, onProgress } = job;
  const total = Math.max(1, Math.round((timeline.seconds + tail) * rate));
  const seconds = job.piece ?? pieceSeconds(total / rate, stems?.names.length ?? 1, beside);
  const size = Math.ceil((seconds * rate) / BLOCK) * BLOCK;
  const count = Math.ceil(total / size);
  const done = new Float64Array(count);
  const tell = (piece: number) => (part: number) => {
    done[piece] = part;
    onProgress?.(done.reduce((sum, one) => sum + one, 0) / count);
  };
  const running: Promise<Piece>[] = [];
  let next = 0;
  const start = () => {
    if (next >= count) return;
    const from = next * size;
    const piece = renderPiece(job, from, Math.min(size, total - from), tell(next));
    // One that fails while an earlier one is waited for is told of when it is its turn.
    piece.catch(() => undefined);
    running.push(piece);
    next++;
  };
  for (let i = 0; i < Math.max(1, beside); i++) start();
  for (let piece = running.shift(); piece; piece = running.shift()) {
    const made = await piece;
    start();
    yield made;
  }
}

async function renderPiece(
  job: RenderJob,
  from: number,
  frames: number,
  onProgress: (done: number) => void,
): Promise<Piece> {
  const { project, timeline, rate, stems, signal } = job;
  signal?.throwIfAborted();
  const lead = leadOf(job, from);
  const zero = (from - lead) / rate;
  const { mixer, port } = rendering(rate, {
    render: job.render,
    epoch: zero,
    ...(stems && { routes: stems.routes }),
  });
  try {
    const given = stems?.project ?? project;
    mixer.update(given);
    await mixer.ready();
    const end = zero + (lead + frames) / rate;
    for (const track of given.tracks) {
      const points = timeline.bends(track.id, zero, end);
      mixer.follow(
        track.id,
        points.map(({ time, by }) => ({ time: Math.max(0, time - zero), by })),
      );
    }
    let handed = zero;
    const handOver = (until: Seconds) => {
      for (const { track, noteOn } of timeline.between(handed, Math.min(until, end))) {
        mixer.noteOn(track, { ...noteOn, time: placed(noteOn.time, from - lead, rate) });
      }
      handed = Math.max(handed, Math.min(until, end));
    };
    const sides = Array.from(
      { length: 2 * (stems?.names.length ?? 1) },
      () => new Float32Array(frames),
    );
    const blocks = Math.ceil((lead + frames) / BLOCK);
    const stretch = Math.ceil((STRETCH * rate) / BLOCK);
    const quiet = lead / BLOCK;
    /** Asks for a stretch, the notes of which go along, and puts it where it belongs. */
    const ask = async (first: number) => {
      const count = Math.min(stretch, (first < quiet ? quiet : blocks) - first);
      // What begins in its last sample may be a little later than that.
      handOver(zero + ((first + count) * BLOCK) / rate + GRACE);
      const channels = await port.render(count, first >= quiet);
      channels.forEach((side, i) => {
        const at = (first - quiet) * BLOCK;
        nth(sides, i).set(side.subarray(0, frames - at), at);
      });
      onProgress((first + count) / blocks);
    };
    // One is made while the one after it is got ready.
    let asked: Promise<void> = Promise.resolve();
    for (let first = 0; first < blocks;) {
      signal?.throwIfAborted();
      const next = ask(first);
      next.catch(() => undefined);
      await asked;
      asked = next;
      first = Math.min(first + stretch, first < quiet ? quiet : blocks);
    }
    await asked;
    signal?.throwIfAborted();
    const outputs = Array.from(
      { length: sides.length / 2 },
      (_, i) => [nth(sides, 2 * i), nth(sides, 2 * i + 1)] as const,
    );
    return { from, frames, outputs };
  } finally {
    mixer.dispose();
  }
}

/** Parts of a sample that times are put on. */
const FINE = 32;

/**
 * A time as one of a context that begins at a sample, put into the middle of a 32nd of a sample: what is due on a
 * sample exactly begins there in every piece, however the difference of two times is rounded.
 */
const placed = (time: Seconds, zero: number, rate: number): Seconds =>
  ((Math.floor(time * rate * FINE + 0.25) + 0.5) / FINE - zero) / rate;

/** How many samples before a piece its rendering begins: whole blocks, so that blocks lie as they would. */
function leadOf({ project, timeline, rate, leadIn }: RenderJob, from: number): number {
  const least = leadIn ? -Infinity : 0;
  const at = from / rate;
  const warm = Math.max(least, at - memory(project));
  const held = timeline
    .between(Math.max(least, warm - LONGEST_NOTE), warm)
    .filter(({ noteOn }) => noteOn.time + noteOn.seconds > warm);
  const first = Math.min(warm, ...held.map(({ noteOn }) => noteOn.time));
  const frames = Math.ceil(((at - first) * rate) / BLOCK) * BLOCK;
  return leadIn ? frames : Math.min(from, frames);
}
