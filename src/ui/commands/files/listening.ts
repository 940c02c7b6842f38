import { nanoid } from "nanoid";
import { toast } from "sonner";
import type { Decoded } from "@/audio/pads/samples";
import * as edits from "@/core/edits";
import { type Bpm, type MidiPitch, type Seconds, plural, nth } from "@/core/base";
import { type Metre, barTicks } from "@/core/time";
import { padName } from "@/core/pitch";
import {
  LIMITS,
  type Note,
  PLAIN_KIT,
  type Project,
  type Recording,
  type SampleRef,
  type Track,
  makeLane,
  makeTrack,
  metreOf,
  patternOf,
  plainPad,
} from "@/core/score";
import {
  KIND_PADS,
  PLAIN_SENSITIVITY,
  barsHeard,
  hitNotes,
  lineNotes,
  rhythmNotes,
  sliceNotes,
} from "@/core/listen";
import type { Ear } from "@/workers/listen.worker";
import { RemoteWorker } from "@/workers/remote";
import { api } from "../../saving/api";
import type { SessionStore } from "../../state/store";
import { readSound, soundTitle } from "./sample";

export type Hits = Awaited<ReturnType<Ear["hits"]>>;

/** One recording and the worker that listens to it. */
export class Listening {
  private constructor(
    readonly name: string,
    readonly bytes: ArrayBuffer,
    readonly sound: Decoded,
    private readonly ear: RemoteWorker<Ear>,
    /** What was heard first: attacks and what they are. */
    readonly began: Hits & { times: Seconds[] },
  ) {}

  /** Reads and listens to a file. Rejects with a sentence for one that cannot be. */
  static async open(file: File, metre: Metre): Promise<Listening> {
    const { bytes, sound } = await readSound(file);
    const ear = new RemoteWorker<Ear>(
      "The listener",
      () =>
        new Worker(new URL("../../../workers/listen.worker.ts", import.meta.url), {
          type: "module",
        }),
    );
    try {
      await ear.call((remote) => remote.open(sound.channels, sound.rate));
      const times = await ear.call((remote) => remote.onsets(PLAIN_SENSITIVITY));
      const hits = await ear.call((remote) => remote.hits(times, metre));
      return new Listening(file.name, bytes, sound, ear, { ...hits, times });
    } catch (error) {
      ear.close();
      throw error;
    }
  }

  get length(): Seconds {
    return nth(this.sound.channels, 0).length / this.sound.rate;
  }
  onsets(sensitivity: number): Promise<Seconds[]> {
    return this.ear.call((remote) => remote.onsets(sensitivity));
  }
  hits(times: readonly Seconds[], metre: Metre): Promise<Hits> {
    return this.ear.call((remote) => remote.hits(times, metre));
  }
  line() {
    return this.ear.call((remote) => remote.line());
  }
  slices(times: readonly Seconds[]) {
    return this.ear.call((remote) => remote.slices(times));
  }
  close(): void {
    this.ear.close();
  }
}

let waiting: File | null = null;
/** Leaves a sound for the project that is opened next. */
export const leaveWaiting = (file: File): void => void (waiting = file);
/** The sound that waits, once. */
export function takeWaiting(): File | null {
  const file = waiting;
  waiting = null;
  return file;
}

/** Whether nothing was written yet. */
export const isEmpty = ({ patterns }: Project): boolean =>
  patterns.every(({ parts }) => parts.every(({ notes }) => notes.length === 0));

/** What a recording can become. */
export const BECOMES = ["hits", "slices", "pad", "line", "rhythm"] as const;
export type Becomes = (typeof BECOMES)[number];

/** How a recording is to be put into the current pattern. */
export interface RecordingWish {
  becomes: Exclude<Becomes, "pad">;
  /** Attacks, in order. */
  times: readonly Seconds[];
  hits: Hits["hits"];
  tempo: Bpm;
  first: Seconds;
  /** A track that is there, or an empty name for a new one. */
  track: string;
  takesTempo: boolean;
  /** Whether the recording itself stays under the pattern, as its reference track. */
  asReference: boolean;
}

/** Bars that a recording takes at a tempo, at least one. */
export function barsOf(
  project: Project,
  pattern: string,
  length: Seconds,
  laid: Pick<RecordingWish, "tempo" | "first">,
): number {
  return barsHeard(length, laid, barTicks(metreOf(project, patternOf(project, pattern))));
}

/** Slices go on pads from this on, as many as there are lanes; of more, the longest are cut. */
const FIRST_PAD = 36;
export const MAX_SLICES = Math.min(LIMITS.lanes, 128 - FIRST_PAD);

/**
 * Puts what was heard in a recording into the current pattern. False where it exceeds what a project holds, which is
 * told; rejects where the server refuses a file. Nothing was changed then.
 */
export async function putRecording(
  store: SessionStore,
  listening: Listening,
  wish: RecordingWish,
): Promise<boolean> {
  const { pattern } = store.getState();
  const title = soundTitle(listening.name);
  const made = await madeOf(store.getState().project, listening, wish, title);
  const recording = wish.asReference ? await recordingOf(listening, wish) : null;
  const { project, edit, setTrack } = store.getState();
  const bars = barsOf(project, pattern, listening.length, wish);
  const { notes } = made;
  const track = made.track ?? wish.track;
  const id = typeof track === "string" ? track : track.id;
  const done = edit(
    "Recording",
    (project) =>
      edits.putHeard(
        project,
        pattern,
        { track, notes, bars, recording, tempo: wish.takesTempo ? wish.tempo : null },
        () => nanoid(8),
      ),
    { selection: [], message: `${plural(notes.length, "note")} of “${listening.name}”` },
  );
  if (done) setTrack(id);
  return done;
}

/**
 * Puts a whole recording on one pad: of a kit that is there, or of a new one (an empty name). False where it exceeds
 * what a project holds, which is told; rejects where the server refuses the file. Nothing was changed then.
 */
export async function putOnPad(
  store: SessionStore,
  { name, bytes }: Listening,
  { track, pitch }: { track: string; pitch: MidiPitch },
): Promise<boolean> {
  const sample = await api.addSample(name, bytes);
  const fresh = { kind: "drums", name: soundTitle(name), sound: "harbour", lanes: [] } as const;
  const onto = track || makeTrack({ id: nanoid(8), ...fresh });
  const { edit, setTrack } = store.getState();
  const message = `“${name}” is on ${padName(pitch)}`;
  const done = edit("Recording", (project) => edits.putOnPad(project, onto, pitch, sample), {
    message,
  });
  if (done) setTrack(typeof onto === "string" ? onto : onto.id, pitch);
  return done;
}

async function recordingOf(
  { name, bytes }: Listening,
  { tempo, first }: RecordingWish,
): Promise<Recording> {
  const sample = await api.addSample(name, bytes);
  return { sample, tempo, first };
}

/** The notes, and the new track they are for, where one was asked for. */
async function madeOf(
  project: Project,
  listening: Listening,
  wish: RecordingWish,
  title: string,
): Promise<{ notes: Note[]; track: Track | null }> {
  const newTrack = (kind: Track["kind"], sound: string, rest: Partial<Track> = {}) =>
    makeTrack({ id: nanoid(8), kind, name: title, sound, ...rest });
  const { becomes, hits, times } = wish;
  if (becomes === "slices") return slicesOnPads(listening, wish, newTrack);
  if (becomes === "hits") {
    const lanes = [...Object.values(KIND_PADS)].reverse().map((pitch) => makeLane(pitch));
    const track = wish.track ? null : newTrack("drums", "harbour", { lanes });
    return { notes: hitNotes(hits, wish), track };
  }
  const track = wish.track ? null : newTrack("melody", "glass-keys");
  if (becomes === "line") return { notes: lineNotes(await listening.line(), wish), track };
  const struck = times.map((time) => ({
    time,
    velocity: Math.max(1, ...hits.filter((hit) => hit.time === time).map((hit) => hit.velocity)),
  }));
  const pitch = 60 + (project.key.root > 6 ? project.key.root - 12 : project.key.root);
  return { notes: rhythmNotes(struck, wish, listening.length, pitch), track };
}

async function slicesOnPads(
  listening: Listening,
  wish: RecordingWish,
  newTrack: (kind: Track["kind"], sound: string, rest: Partial<Track>) => Track,
) {
  if (wish.times.length > MAX_SLICES) {
    throw new Error(
      `${wish.times.length} slices are more than the ${MAX_SLICES} lanes of a track: make it less sensitive`,
    );
  }
  const slices = await listening.slices(wish.times);
  const samples: SampleRef[] = [];
  for (const [i, { bytes }] of slices.entries())
    samples.push(await api.addSample(`${listening.name} ${i + 1}`, bytes.buffer));
  const cuts = slices.map(({ time }) => time);
  const track = newTrack("drums", "harbour", {
    lanes: slices.map((_, i) => ({ ...makeLane(FIRST_PAD + i), name: `Slice ${i + 1}` })),
    kit: {
      ...PLAIN_KIT,
      pads: samples.map((sample, i) => ({ ...plainPad(FIRST_PAD + i), sample, choke: 0 })),
    },
  });
  return { notes: sliceNotes(cuts, wish, listening.length, FIRST_PAD), track };
}

/** Says why a recording was not taken, and that nothing was changed. */
export const notListened = (name: string, error: unknown) =>
  toast.error(`“${name}” not taken: ${(error as Error).message}. Nothing was changed.`);
