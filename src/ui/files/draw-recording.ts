import { type Bpm, type Seconds, modulo } from "@/core/base";
import { type Metre, PPQ, beatTicks, beatsInBar } from "@/core/time";
import type { Hits } from "../commands/files/listening";
import { readColours, trackColour } from "../controls/colours";

export const PICTURE_HEIGHT = 168;
/** The stripe at the top with the bars, by which they are moved. */
export const RULER = 26;

/** A recording as it is drawn. */
export interface RecordingScene {
  width: number;
  /** The loudest sample of each column, 0–1. */
  peaks: Float32Array;
  length: Seconds;
  times: readonly Seconds[];
  hits: Hits["hits"];
  tempo: Bpm;
  first: Seconds;
  metre: Metre;
  /** Which attack is chosen, by its place in `times`; −1 for none. */
  chosen: number;
  /** Where it is heard now; null where it is not. */
  playhead: Seconds | null;
}

type Colours = ReturnType<typeof readColours>;

/** Draws wave, bars, attacks and playhead. */
export function drawRecording(ctx: CanvasRenderingContext2D, scene: RecordingScene): void {
  const colours = readColours();
  ctx.fillStyle = colours.sheet;
  ctx.fillRect(0, 0, scene.width, PICTURE_HEIGHT);
  drawWave(ctx, scene, colours);
  drawBars(ctx, scene, colours);
  drawAttacks(ctx, scene, colours);
  if (scene.playhead === null) return;
  ctx.fillStyle = colours.squall;
  ctx.fillRect(xOfTime(scene, scene.playhead), 0, 2, PICTURE_HEIGHT);
}

/** Where a time lies, in pixels from the left. */
export const xOfTime = (
  { width, length }: Pick<RecordingScene, "width" | "length">,
  time: Seconds,
) => (time / length) * width;

function drawWave(
  ctx: CanvasRenderingContext2D,
  { peaks }: RecordingScene,
  colours: Colours,
): void {
  const middle = RULER + (PICTURE_HEIGHT - RULER) / 2;
  const half = (PICTURE_HEIGHT - RULER) / 2 - 6;
  ctx.fillStyle = colours.quiet;
  ctx.globalAlpha = 0.45;
  peaks.forEach((peak, x) =>
    ctx.fillRect(x, middle - peak * half, 1, Math.max(1, 2 * peak * half)),
  );
  ctx.globalAlpha = 1;
}

function drawBars(ctx: CanvasRenderingContext2D, scene: RecordingScene, colours: Colours): void {
  const { metre, tempo, first, length } = scene;
  const beats = beatsInBar(metre);
  const beat = ((60 / tempo) * beatTicks(metre)) / PPQ;
  const from = -Math.ceil(first / beat);
  ctx.font = `12px ${colours.mono}`;
  for (let i = from; first + i * beat <= length + 1e-6; i++) {
    const x = Math.round(xOfTime(scene, first + i * beat));
    const one = modulo(i, beats) === 0;
    ctx.fillStyle = one ? colours.selected : colours.line;
    ctx.globalAlpha = i < 0 ? 0.35 : 1;
    ctx.fillRect(x, one ? 0 : RULER - 7, one ? 2 : 1, PICTURE_HEIGHT);
    if (one && i >= 0) {
      ctx.fillStyle = colours.text;
      ctx.fillText(String(i / beats + 1), x + 5, 16);
    }
  }
  ctx.globalAlpha = 1;
}

/** Kinds of hits from top to bottom: how far down, and the track colour. */
const ROWS = {
  high: { down: 0.22, colour: 2 },
  middle: { down: 0.5, colour: 1 },
  low: { down: 0.78, colour: 0 },
} as const;

function drawAttacks(ctx: CanvasRenderingContext2D, scene: RecordingScene, colours: Colours): void {
  const { times, hits, chosen } = scene;
  times.forEach((time, i) => {
    const x = xOfTime(scene, time);
    ctx.fillStyle = i === chosen ? colours.selected : colours.text;
    ctx.globalAlpha = i === chosen ? 0.9 : 0.3;
    ctx.fillRect(x, RULER, i === chosen ? 2 : 1, PICTURE_HEIGHT - RULER);
    ctx.globalAlpha = 1;
    for (const hit of hits.filter((one) => one.time === time)) {
      const { down, colour } = ROWS[hit.kind];
      ctx.beginPath();
      const y = RULER + down * (PICTURE_HEIGHT - RULER);
      ctx.arc(x, y, 2.5 + (4.5 * hit.velocity) / 127, 0, 2 * Math.PI);
      ctx.fillStyle = trackColour(colours, colour);
      ctx.fill();
    }
  });
}

/** The loudest sample of each column, of all channels, held against the loudest of all. */
export function peaksOf(channels: readonly Float32Array[], columns: number): Float32Array {
  const peaks = new Float32Array(columns);
  const frames = channels[0]?.length ?? 0;
  let most = 1e-6;
  for (const channel of channels)
    for (let i = 0; i < frames; i++) {
      const x = Math.min(columns - 1, Math.floor((i / frames) * columns));
      const value = Math.abs(channel[i]!);
      if (value > peaks[x]!) peaks[x] = value;
      if (value > most) most = value;
    }
  return peaks.map((peak) => peak / most);
}
