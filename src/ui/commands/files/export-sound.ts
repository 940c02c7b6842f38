import { proxy } from "comlink";
import { plural } from "@/core/base";
import type { ParamValue } from "@/core/params";
import { type ArrangementOptions, type Project, arrangementOf, patternOf } from "@/core/score";
import { type Current, type Extent, FORMATS } from "@/core/formats";
import { keeping } from "@/audio/render/keep";
import { memory, renderPieces } from "@/audio/render/pieces";
import { stemsOf, type StemKind, type StemSends } from "@/audio/render/stems";
import { looped, timelineOf } from "@/audio/render/timeline";
import type { SoundFile, SoundFiles } from "@/audio/files/sound-files";
import { WorkerRenderer } from "@/audio/pads/renderers";
import { RemoteWorker } from "@/workers/remote";
import { fileName } from "./download";

/** A file that was made, and what is said of it. */
export interface MadeFile {
  body: Blob;
  name: string;
  said: string;
}

export interface Running {
  signal: AbortSignal;
  /** Told how much is done, 0–1. */
  onProgress(done: number): void;
}

type Answers = Readonly<Record<string, ParamValue>>;

/** What of several files each holds, as it is asked for. */
const KINDS: Readonly<Record<string, StemKind>> = {
  "the mix": "mix",
  tracks: "tracks",
  lanes: "lanes",
  "drums and melodies": "buses",
};
const SENDS: Readonly<Record<string, StemSends>> = {
  "files of their own": "apart",
  "with each": "with",
  "left out": "without",
};

/** Softer than this is silence: less than a step of 16 bits. */
const SILENT = 10 ** (-96 / 20);
/** What rings on is waited for so long at most, in seconds. */
const LONGEST_RING = 30;
/** Making the files is this share of the work. */
const ENCODING = 0.12;
/** No file is made louder than this, whatever loudness is asked for. */
const CEILING_DB = -1;

/** What of the project is heard, and how often over. */
export function heardLine(
  project: Project,
  answers: Answers,
  extent: Extent,
  { pattern, range }: Current,
): { what: ArrangementOptions; ticks: number; rounds: number } {
  const what: ArrangementOptions =
    extent === "song"
      ? {}
      : extent === "range" && range
        ? { range: range.ticks, ...(range.pattern !== null && { pattern: range.pattern }) }
        : { pattern };
  const rounds = what.pattern === undefined ? 1 : Number(answers.rounds ?? 1);
  return { what, ticks: rounds * arrangementOf(project, what).length, rounds };
}

/** Samples a second. */
export const rateOf = ({ rate }: Answers) => Math.round(Number.parseFloat(String(rate)) * 1000);

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
  project: Project,
  format: string,
  answers: Answers,
  extent: Extent,
  current: Current,
  { signal, onProgress, beside }: Running & { beside: number },
): Promise<MadeFile> {
  const { extensions, sound } = FORMATS[format]!;
  const rate = rateOf(answers);
  const { what, ticks, rounds } = heardLine(project, answers, extent, current);
  const once = timelineOf(project, 0, ticks, { ...what, loop: rounds > 1 });
  const timeline = extent === "loop" ? looped(once, rate) : once;
  const sounding = [...new Set(once.between(0, Infinity).map(({ track }) => track))];
  if (sounding.length === 0) throw new Error("Nothing sounds there");
  const kind = KINDS[String(answers.files)]!;
  const limited = answers.limiter === true;
  // The mix is what is heard; anything else is taken before it is put together.
  const stems =
    kind === "mix" && limited
      ? undefined
      : stemsOf(
          project,
          { kind, sends: kind === "mix" ? "with" : SENDS[String(answers.sends)]!, limited },
          sounding,
        );
  const tail = extent === "loop" || !answers.ring ? 0 : Math.min(LONGEST_RING, memory(project) + 2);
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
    const gain = gainFor(answers, peak, loudness);
    const about: SoundFile = {
      kind: sound!,
      rate,
      bits: answers.bits === "16" ? 16 : answers.bits === "24" ? 24 : 32,
      dither: true,
      gain,
      ...(extent === "loop" && sound === "wav" && { loop: [0, frames] as const }),
    };
    const base = nameOf(project, extent, current);
    const names = stems && kind !== "mix" ? stems.names : [base];
    const digits = String(names.length).length;
    const made: { name: string; body: Blob }[] = [];
    for (const [i, name] of names.entries()) {
      signal.throwIfAborted();
      const broadcast = answers.broadcast === true && {
        broadcast: {
          description: `${project.name}: ${name}`,
          originator: "Hailstep",
          date: new Date(),
          reference: 0,
        },
      };
      const told = proxy((done: number) =>
        onProgress(1 - ENCODING + (ENCODING * (i + done)) / names.length),
      );
      const body = await remote.call((files) =>
        files.file(i, { ...about, ...broadcast }, frames, told),
      );
      const number = `${String(i + 1).padStart(digits, "0")} `;
      made.push({
        name: `${names.length > 1 ? number : ""}${fileName(name)}.${extensions[0]}`,
        body,
      });
    }
    const level = 20 * Math.log10(gain);
    const signed = (db: number) => db.toFixed(1).replace("-", "−");
    const said = [
      `${(frames / rate).toFixed(2)} s`,
      `peak ${signed(20 * Math.log10(peak) + level)} dBFS`,
      ...(Number.isFinite(loudness) ? [`${signed(loudness + level)} LUFS`] : []),
      ...(stems?.apart ?? []),
    ].join(", ");
    if (made.length === 1) return { ...made[0]!, said };
    const folder = `${fileName(base)} stems`;
    const body = await remote.call((files) =>
      files.zip(made.map((one) => ({ ...one, name: `${folder}/${one.name}` }))),
    );
    return { body, name: `${folder}.zip`, said: `${plural(made.length, "file")} of ${said}` };
  } finally {
    remote.close();
    pads.close();
  }
}

/** What everything is multiplied by. To a loudness, no more than leaves the highest sample below the ceiling. */
function gainFor(answers: Answers, peak: number, loudness: number): number {
  const times = (db: number) => 10 ** (db / 20);
  if (answers.level === "to a peak") return times(Number(answers.peak)) / peak;
  if (answers.level !== "to a loudness" || !Number.isFinite(loudness)) return 1;
  return Math.min(times(Number(answers.loudness) - loudness), times(CEILING_DB) / peak);
}

function nameOf(project: Project, extent: Extent, { pattern, range }: Current): string {
  const own = extent === "range" ? range?.pattern : extent === "song" ? null : pattern;
  const parts = [project.name, own && patternOf(project, own).name];
  if (extent === "loop") parts.push("loop");
  return parts.filter(Boolean).join(" ");
}
