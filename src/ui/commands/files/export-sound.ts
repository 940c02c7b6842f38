import { proxy } from "comlink";
import { plural, nth } from "@/core/base";
import { type ArrangementOptions, type Project, arrangementOf, patternOf } from "@/core/score";
import type { Current, Extent, SoundRequest } from "@/core/formats";
import { keeping } from "@/audio/render/keep";
import { memory, renderPieces } from "@/audio/render/pieces";
import { stemsOf } from "@/audio/render/stems";
import { looped, timelineOf } from "@/audio/render/timeline";
import type { SoundFile, SoundFiles } from "@/audio/files/sound-files";
import { WorkerRenderer } from "@/audio/pads/renderers";
import { RemoteWorker } from "@/workers/remote";
import { fileName } from "./download";

/** A file that was made, and what is said of it. */
export interface MadeFile {
  body: Blob;
  name: string;
  message: string;
}

export interface Running {
  signal: AbortSignal;
  /** Told how much is done, 0–1. */
  onProgress(done: number): void;
}

/** Softer than this is silence: less than a step of 16 bits. */
const SILENT = 10 ** (-96 / 20);
/** What rings on is waited for so long at most, in seconds. */
const LONGEST_RING = 30;
/** Making the files is this share of the work. */
const ENCODING = 0.12;
/** What of the project is heard, and how often over. */
export function heardStretch(
  project: Project,
  { loops: asked }: Pick<SoundRequest, "loops">,
  extent: Extent,
  { pattern, range }: Current,
): { what: ArrangementOptions; ticks: number; loops: number } {
  const what: ArrangementOptions =
    extent === "song"
      ? {}
      : extent === "range" && range
        ? { range: range.ticks, ...(range.pattern !== null && { pattern: range.pattern }) }
        : { pattern };
  const loops = what.pattern === undefined ? 1 : asked;
  return { what, ticks: loops * arrangementOf(project, what).length, loops };
}

const worker = () =>
  new RemoteWorker<SoundFiles>(
    "The maker of sound files",
    () =>
      new Worker(new URL("../../../workers/sound-file.worker.ts", import.meta.url), {
        type: "module",
      }),
  );

/** Renders what is asked for and makes its files; one zip of several. Rejects when it is given up. */
export async function exportSound(
  { project, request, extension }: { project: Project; request: SoundRequest; extension: string },
  { extent, current }: { extent: Extent; current: Current },
  { signal, onProgress, beside }: Running & { beside: number },
): Promise<MadeFile> {
  const { rate, limited } = request;
  const { what, ticks, loops } = heardStretch(project, request, extent, current);
  const once = timelineOf(project, 0, ticks, { ...what, loop: loops > 1 });
  const timeline = extent === "loop" ? looped(once, rate) : once;
  const sounding = [...new Set(once.between(0, Infinity).map(({ track }) => track))];
  if (sounding.length === 0) throw new Error("Nothing sounds there");
  const kind = request.stems;
  // The mix is what is heard; anything else is taken before it is put together.
  const stems =
    kind === "mix" && limited
      ? undefined
      : stemsOf(
          project,
          { kind, sends: kind === "mix" ? "with" : request.sends, limited },
          sounding,
        );
  const tail = extent === "loop" || !request.ring ? 0 : Math.min(LONGEST_RING, memory(project) + 2);
  const remote = worker();
  const pads = new WorkerRenderer();
  try {
    await remote.call((files) => files.begin(stems?.names.length ?? 1, rate));
    const pieces = renderPieces({
      ...{ project, timeline, rate, tail, beside, signal },
      leadIn: extent === "loop",
      ...(stems && { stems }),
      render: keeping(pads.render),
      onProgress: (done) => onProgress(done * (1 - ENCODING)),
    });
    for await (const { outputs } of pieces) {
      signal.throwIfAborted();
      await remote.call((files) => files.add(outputs));
    }
    const { peak, loudness, frames: all } = await remote.call((files) => files.measured());
    if (peak === 0) throw new Error("Nothing is heard there: every sample is silent");
    const whole = Math.round(timeline.seconds * rate);
    const frames =
      tail > 0 ? Math.max(whole, await remote.call((files) => files.lastHeard(SILENT))) : all;
    const gain = request.gain(peak, loudness);
    const about: SoundFile = {
      kind: request.file,
      rate,
      bits: request.bits,
      dither: true,
      gain,
      ...(extent === "loop" && request.file === "wav" && { loop: [0, frames] as const }),
    };
    const base = nameOf(project, extent, current);
    const names = stems && kind !== "mix" ? stems.names : [base];
    const digits = String(names.length).length;
    const made: { name: string; body: Blob }[] = [];
    for (const [i, name] of names.entries()) {
      signal.throwIfAborted();
      const broadcast = request.broadcast && {
        broadcast: {
          description: `${project.name}: ${name}`,
          originator: "Hailstep",
          date: new Date(),
          reference: 0,
        },
      };
      const reportDone = proxy((done: number) =>
        onProgress(1 - ENCODING + (ENCODING * (i + done)) / names.length),
      );
      const body = await remote.call((files) =>
        files.file(i, { ...about, ...broadcast }, frames, reportDone),
      );
      const number = `${String(i + 1).padStart(digits, "0")} `;
      made.push({
        name: `${names.length > 1 ? number : ""}${fileName(name)}.${extension}`,
        body,
      });
    }
    const level = 20 * Math.log10(gain);
    const signed = (db: number) => db.toFixed(1).replace("-", "−");
    const message = [
      `${(frames / rate).toFixed(2)} s`,
      `peak ${signed(20 * Math.log10(peak) + level)} dBFS`,
      ...(Number.isFinite(loudness) ? [`${signed(loudness + level)} LUFS`] : []),
      ...(stems?.apart ?? []),
    ].join(", ");
    if (made.length === 1) return { ...nth(made, 0), message };
    const folder = `${fileName(base)} stems`;
    const body = await remote.call((files) =>
      files.zip(made.map((one) => ({ ...one, name: `${folder}/${one.name}` }))),
    );
    return { body, name: `${folder}.zip`, message: `${plural(made.length, "file")} of ${message}` };
  } finally {
    remote.close();
    pads.close();
  }
}

function nameOf(project: Project, extent: Extent, { pattern, range }: Current): string {
  const own = extent === "range" ? range?.pattern : extent === "song" ? null : pattern;
  const parts = [project.name, own && patternOf(project, own).name];
  if (extent === "loop") parts.push("loop");
  return parts.filter(Boolean).join(" ");
}
