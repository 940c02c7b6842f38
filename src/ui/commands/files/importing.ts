import { nanoid } from "nanoid";
import { toast } from "sonner";
import * as edits from "@/core/edits";
import { plural } from "@/core/base";
import type { Project } from "@/core/score";
import {
  type ReadOptions,
  type SampleFile,
  bytesOfBase64,
  writeProjectJson,
  formatOf,
} from "@/core/formats";
import { api } from "../../saving/api";
import type { SessionStore } from "../../state/store";
import type { ReadingDesk } from "@/workers/read-file.worker";
import { RemoteWorker } from "@/workers/remote";

/** A file that was read, before anything is done with it. */
export interface Intake {
  fileName: string;
  format: string;
  project: Project;
  samples: readonly SampleFile[];
  notKept: readonly string[];
  /** Whether a sustain pedal is pressed in it; and whether it was read with that. */
  pedal?: boolean;
  pedalled: boolean;
  /** How its texts were read; left out where it makes no difference. */
  encoding?: string;
}

/** Where what a file holds goes. */
export type Into = "project" | "tracks" | "patterns";

/** What is to be done with it. */
export interface ImportWish {
  into: Into;
  tracks: readonly edits.TakenTrack[];
  /** Long patterns are cut into patterns of so many bars; 0 for not at all. */
  cut: number;
}

/** No file is read that is larger, in bytes; the server holds to no less. */
const MAX_BYTES = 64 * 1024 * 1024;

/** Says why a file was not taken in, and that nothing was changed. */
export const notImported = (fileName: string, error: unknown) =>
  toast.error(`“${fileName}” not imported: ${(error as Error).message}. Nothing was changed.`);

/** Reads a file. Rejects with a sentence for one that cannot be read; nothing was done then. */
export async function readIntake(file: File, options: ReadOptions = {}): Promise<Intake> {
  if (file.size > MAX_BYTES)
    throw new Error(`It holds ${Math.ceil(file.size / 1024 / 1024)} MB; at most 64 are read`);
  const bytes = new Uint8Array(await file.arrayBuffer());
  const remote = new RemoteWorker<ReadingDesk>(
    "The reader of files",
    () =>
      new Worker(new URL("../../../workers/read-file.worker.ts", import.meta.url), {
        type: "module",
      }),
  );
  try {
    const read = await remote.call((desk) => desk.read(bytes, file.name, options));
    return { fileName: file.name, pedalled: options.pedal ?? false, ...read };
  } finally {
    remote.close();
  }
}

/** How it is taken in where nobody says otherwise: everything as the file has it. */
export const plainWish = ({ project }: Intake): ImportWish => ({
  into: "project",
  tracks: project.tracks.map(({ id, name, kind, sound }) => ({
    id,
    taken: true,
    name,
    kind,
    sound,
  })),
  cut: 0,
});

/** The same wish for a file that was read again another way: tracks are called as it now says. */
export const rewished = (wish: ImportWish, { project }: Intake): ImportWish => ({
  ...wish,
  tracks: wish.tracks.map((track) => ({
    ...track,
    name: project.tracks.find(({ id }) => id === track.id)?.name ?? track.name,
  })),
});

/** What a file holds, in words. */
export function intakeText({ format, project }: Intake): string {
  const notes = project.patterns
    .flatMap((pattern) => pattern.parts)
    .reduce((count, part) => count + part.notes.length, 0);
  const bars = project.patterns.reduce((sum, { bars: own }) => sum + own, 0);
  const { beats, unit } = project.metre;
  return [
    formatOf(format).label,
    plural(project.tracks.length, "track"),
    plural(notes, "note"),
    plural(project.patterns.length, "pattern"),
    plural(bars, "bar"),
    `${Number(project.tempo.toFixed(2))} BPM`,
    `${beats}/${unit}`,
  ].join(" · ");
}

/** The longest pattern of a file, in bars: longer than eight can be cut. */
export const longest = ({ project }: Intake) =>
  Math.max(...project.patterns.map((pattern) => pattern.bars));

const cutIds = { pattern: () => nanoid(8), section: () => nanoid(8) };

/** What a file holds, as it is wanted. */
export function wanted({ project }: Intake, { tracks, cut }: ImportWish): Project {
  const chosen = edits.chosenTracks(project, tracks);
  if (cut === 0) return chosen;
  return chosen.patterns.reduce((made, { id }) => edits.cutPattern(made, id, cut, cutIds), chosen);
}

/**
 * Takes in what was read: as another project, whose id is given, or into the open one. Says what could not be
 * kept. Rejects where it does not fit or the server refuses it; nothing was changed then.
 */
export async function takeIn(
  store: SessionStore | null,
  intake: Intake,
  wish: ImportWish,
): Promise<string | null> {
  const project = wanted(intake, wish);
  if (project.tracks.length === 0) throw new Error("No track was chosen");
  const lost = intake.notKept.length > 0 ? ` Not kept: ${intake.notKept.join(", ")}.` : "";
  if (wish.into === "project" || !store) {
    const text = writeProjectJson(project, intake.samples);
    const { id } = await api.import(new File([text], `${project.name}.json`));
    toast.success(`“${project.name}” imported.${lost}`);
    return id;
  }
  for (const { name, data } of intake.samples) {
    const bytes = bytesOfBase64(data);
    await api.addSample(name, bytes.buffer);
  }
  const { pattern, edit } = store.getState();
  const newId = () => nanoid(8);
  const count = plural(project.tracks.length, "track");
  const more = wish.into === "tracks" && project.patterns.length > 1;
  const rest = more ? ` Of ${project.patterns.length} patterns the first.` : "";
  edit(
    "Import",
    (p) =>
      wish.into === "tracks"
        ? edits.bringTracks(p, project, pattern, newId)
        : edits.bringPatterns(p, project, newId),
    { message: `${count} of “${intake.fileName}” imported.${rest}${lost}` },
  );
  return null;
}
