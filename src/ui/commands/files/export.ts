import { toast } from "sonner";
import { type Project, type SampleRef, samplesOf } from "@/core/score";
import {
  type FileRequest,
  type Format,
  FORMATS,
  type SampleFile,
  formatOf,
  scopeOf,
  writeFile,
} from "@/core/formats";
import { effectiveProject } from "../../state/current";
import type { Session } from "../../state/editing";
import type { SessionStore } from "../../state/store";
import { currentOf } from "./current";
import { download, fileName } from "./download";
import type { MadeFile } from "./export-sound";

/** Something that can be exported: a choice of a format. */
export interface Export {
  id: string;
  format: string;
  label: string;
  words: string;
  choice: Format["choices"][number];
}

/** All that can be exported, as the formats offer it. */
export const EXPORTS: readonly Export[] = Object.entries(FORMATS).flatMap(([format, about]) =>
  about.choices.map((choice) => ({
    id: `${format}-${choice.id}`,
    format,
    label: choice.label,
    words: about.words,
    choice,
  })),
);

/** The files of the samples a project uses, which the server has. */
async function filesOf(project: Project): Promise<SampleFile[]> {
  return Promise.all(samplesOf(project).map(withData));
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

/** A project in a format, as a file; drawings as pictures on wish. What it leaves out is said. */
export async function asFile(
  state: Session,
  format: string,
  request: FileRequest,
): Promise<MadeFile> {
  const { withSamples } = formatOf(format);
  // A file with samples is the project itself; others hold what is heard.
  const project = withSamples ? state.project : effectiveProject(state);
  const samples = withSamples ? await filesOf(project) : [];
  const written = writeFile(project, format, request, samples);
  const { body, suffix, notKept, extension, type, paintAs } = written;
  const name = fileName(suffix ? `${project.name} ${suffix}` : project.name);
  const message = notKept.join("; ");
  if (typeof body === "string" && paintAs)
    return { body: await painted(body), name: `${name}.${paintAs}`, message };
  return { body: new Blob([body as BlobPart], { type }), name: `${name}.${extension}`, message };
}

/** A drawing as a picture of the same size. */
async function painted(drawing: string): Promise<Blob> {
  const url = URL.createObjectURL(new Blob([drawing], { type: "image/svg+xml" }));
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [image.naturalWidth, image.naturalHeight];
    canvas.getContext("2d")!.drawImage(image, 0, 0);
    return await new Promise<Blob>((resolve, reject) => {
      canvas.toBlob((blob) => {
        if (blob) resolve(blob);
        else reject(new Error("The browser makes no picture of this size"));
      }, "image/png");
    });
  } finally {
    URL.revokeObjectURL(url);
  }
}

/** Exports the project as a file. Made here, so it holds what is on screen; a message says what it leaves out. */
export async function exportAs(store: SessionStore, { format, choice }: Export): Promise<void> {
  const state = store.getState();
  const { label } = formatOf(format);
  try {
    const request = { ...choice.options, ...scopeOf(choice.extent, currentOf(state)) };
    const { body, name, message } = await asFile(state, format, request);
    download(body, name);
    toast.success([`${label} exported`, message].filter(Boolean).join("; "));
  } catch (error) {
    toast.error(`${label} not exported: ${(error as Error).message}`);
  }
}
