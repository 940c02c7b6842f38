import { clamp, nth } from "@/core/base";
import { type ParamValue, type ParamMeta, isShown } from "@/core/params";
import { arrangementOf, timeMap } from "@/core/score";
import { type Extent, FORMATS, formatOf, scopeOf } from "@/core/formats";
import type { SchemaDescription } from "yup";
import { currentPart, effectiveProject } from "../../state/current";
import type { Session } from "../../state/editing";
import type { SoundDesk } from "../../session/desk";
import { heardStretch, exportSound, type MadeFile, type Running } from "./export-sound";
import { currentOf } from "./current";
import { asFile } from "./export";
import { settings, setSettings } from "../../person/settings";

/** What is to be exported: a format, how much, and the answers to its questions. */
export interface ExportWish {
  format: string;
  extent: Extent;
  answers: Readonly<Record<string, ParamValue>>;
}

/** Formats that files can be made of, in their order. */
export const OFFERED = Object.entries(FORMATS).flatMap(([id, format]) =>
  format.write || format.sound ? [{ id, ...format }] : [],
);

export const EXTENT_NAMES: Readonly<Record<Extent, string>> = {
  pattern: "Pattern",
  loop: "Pattern as a loop",
  song: "Song",
  range: "What is looped",
  track: "Track",
  lane: "Lane",
  selection: "Selection",
  project: "Project",
};

/** How much of the project can be asked for just now. */
export function extentsNow(state: Session, format: string): readonly Extent[] {
  const { track, lane, selection, range } = currentOf(state);
  const part = track !== "" ? currentPart(state) : null;
  const there: Partial<Record<Extent, boolean>> = {
    track: track !== "",
    lane: lane !== null && (part?.notes.some((note) => note.pitch === lane) ?? false),
    selection: selection.length > 0,
    range: range !== null,
  };
  return formatOf(format).extents.filter((extent) => there[extent] ?? true);
}

/** The questions of a format that have a meaning next to the others' answers and to how much is asked for. */
export function shownQuestions({
  format,
  extent,
  answers,
}: ExportWish): [string, SchemaDescription][] {
  const { fields } = formatOf(format).questions.describe() as {
    fields: Record<string, SchemaDescription>;
  };
  return Object.entries(fields).filter(([, about]) => {
    const meta = (about.meta ?? {}) as ParamMeta;
    return (!meta.extents || meta.extents.includes(extent)) && isShown(meta, answers);
  });
}

/** A wish for a format, as it was last or as usual; with how much can be had of it now. */
export function wishFor(state: Session, format: string, before?: ExportWish): ExportWish {
  const { defaults, questions } = formatOf(format);
  const extents = extentsNow(state, format);
  const own = before?.format === format ? before.answers : {};
  // What an older program kept, or somebody changed, is taken only as far as it is right.
  const answers = { ...defaults };
  for (const [name, value] of Object.entries(own)) {
    if (!(name in answers)) continue;
    const field = questions.fields[name] as unknown as { isValidSync(value: unknown): boolean };
    if (field.isValidSync(value)) answers[name] = value;
  }
  const extent = before && extents.includes(before.extent) ? before.extent : nth(extents, 0);
  return { format, extent, answers };
}

/** The last wish of this browser; null where there was none, or none that has a meaning now. */
export function lastWish(state: Session): ExportWish | null {
  const { lastExport } = settings();
  if (!lastExport || !OFFERED.some(({ id }) => id === lastExport.format)) return null;
  return wishFor(state, lastExport.format, lastExport as ExportWish);
}

/** What a file of sound will be: its length in seconds and bytes, tails not counted. Null for others. */
export function soundSize(
  state: Session,
  { format, extent, answers }: ExportWish,
): { seconds: number; bytes: number } | null {
  const request = formatOf(format).sound?.(answers);
  if (!request) return null;
  const project = effectiveProject(state);
  const { what, loops } = heardStretch(project, request, extent, currentOf(state));
  if (arrangementOf(project, what).length === 0) return { seconds: 0, bytes: 0 };
  const seconds = loops * timeMap(project, what).seconds;
  return { seconds, bytes: (seconds * request.rate * 2 * request.bits) / 8 };
}

/** Makes the file of a wish. Its message says what was left out. */
export async function makeFile(
  desk: SoundDesk,
  wish: ExportWish,
  running: Running,
): Promise<MadeFile> {
  const state = desk.store.getState();
  const { format, extent, answers } = wish;
  const { questions, sound, extensions } = formatOf(format);
  questions.validateSync(answers, { strict: true });
  setSettings({ lastExport: { ...wish } });
  const current = currentOf(state);
  if (!sound) return asFile(state, format, { ...answers, ...scopeOf(extent, current) });
  const cores = navigator.hardwareConcurrency || 2;
  // While it plays, a core is left to that.
  const beside = clamp(state.playing ? cores - 1 : cores, 1, 4);
  return exportSound(
    { project: effectiveProject(state), request: sound(answers), extension: nth(extensions, 0) },
    { extent, current },
    { ...running, beside },
  );
}
