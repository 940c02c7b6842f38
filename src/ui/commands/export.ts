import { toast } from "sonner";
import {
  FORMATS,
  samplesOf,
  writeFile,
  type ExportChoice,
  type Project,
  type SampleFile,
  type SampleRef,
} from "@/core";
import { heardProject } from "../session/current";
import type { SessionStore } from "../session/store";

/** Something that can be exported: a choice of a format. */
export interface Export {
  id: string;
  format: string;
  label: string;
  words: string;
  choice: ExportChoice;
}

/** All that can be exported, as the formats offer it. */
export const EXPORTS: readonly Export[] = Object.entries(FORMATS).flatMap(([format, about]) =>
  (about.writer?.choices ?? []).map((choice) => ({
    id: `${format}-${choice.id}`,
    format,
    label: choice.label,
    words: about.words,
    choice,
  })),
);

/** Hands a file to the browser's downloads. */
function download(body: BlobPart, type: string, name: string): void {
  const url = URL.createObjectURL(new Blob([body], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** The files of the samples a project uses, which the server has. */
async function filesOf(project: Project): Promise<SampleFile[]> {
  return Promise.all(samplesOf(project.tracks).map(withData));
}

async function withData(ref: SampleRef): Promise<SampleFile> {
  const response = await fetch(`/api/samples/${ref.id}`);
  if (!response.ok) throw new Error(`The server does not give the sample “${ref.name}”`);
  const blob = await response.blob();
  const url = await new Promise<string>((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error(`The sample “${ref.name}” cannot be read`));
    reader.readAsDataURL(blob);
  });
  return { ...ref, data: url.slice(url.indexOf(",") + 1) };
}

/** A name that every file system takes. */
const fileName = (name: string) => name.replace(/[\\/:*?"<>|]+/g, "_");

/** Exports the project as a file. Made here, so it holds what is on screen; a message says what it leaves out. */
export async function exportAs(store: SessionStore, { format, choice }: Export): Promise<void> {
  const state = store.getState();
  const { writer, label } = FORMATS[format]!;
  // A file with samples is the project itself; others hold what is heard.
  const project = writer!.withSamples ? state.project : heardProject(state);
  try {
    const samples = writer!.withSamples ? await filesOf(project) : [];
    const { body, suffix, notKept, extension, type } = writeFile(
      project,
      format,
      choice.options(state),
      samples,
    );
    const name = suffix ? `${project.name} ${suffix}` : project.name;
    download(body as BlobPart, type, `${fileName(name)}.${extension}`);
    toast.success([`${label} exported`, ...notKept].join("; "));
  } catch (error) {
    toast.error(`${label} not exported: ${(error as Error).message}`);
  }
}
