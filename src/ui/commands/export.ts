import { toast } from "sonner";
import {
  soundingTracks,
  writeProjectJson,
  writeSmf,
  type Project,
  type SampleFile,
  type SampleRef,
} from "@/core";
import { heardProject, type Session } from "../session/store";

function download(body: BlobPart, type: string, name: string): void {
  const url = URL.createObjectURL(new Blob([body], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** The project with its samples, which the server has. */
async function exportProject(project: Project, name: string): Promise<void> {
  try {
    const refs = project.tracks.flatMap(
      (track) => track.kit?.pads.flatMap((p) => p.sample ?? []) ?? [],
    );
    const unique = new Map(refs.map((ref) => [ref.id, ref]));
    const samples = await Promise.all([...unique.values()].map(withData));
    download(writeProjectJson(project, samples), "application/json", `${name}.json`);
  } catch (error) {
    toast.error(`No file was made: ${(error as Error).message}`);
  }
}

async function withData(ref: SampleRef): Promise<SampleFile> {
  const response = await fetch(`/api/samples/${ref.id}`);
  if (!response.ok) throw new Error(`the server does not give the sample “${ref.name}”`);
  const blob = await response.blob();
  const url = await new Promise<string>((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error(`the sample “${ref.name}” cannot be read`));
    reader.readAsDataURL(blob);
  });
  return { ...ref, data: url.slice(url.indexOf(",") + 1) };
}

/** Gives the project, or the pattern in hand, as a file. Made here, so it holds what is on screen. */
export function exportFile(state: Session, what: "pattern" | "all" | "json"): void {
  const { project } = state;
  const name = project.name.replace(/[\\/:*?"<>|]+/g, "_");
  if (what === "json") {
    void exportProject(project, name);
    return;
  }
  const heard = heardProject(state);
  const pattern = what === "pattern" ? state.pattern : undefined;
  const bytes = writeSmf(heard, { pattern }) as Uint8Array<ArrayBuffer>;
  const patternName = heard.patterns.find((p) => p.id === pattern)?.name;
  download(bytes, "audio/midi", patternName ? `${name} ${patternName}.mid` : `${name}.mid`);
  const silent = heard.tracks.length - soundingTracks(heard).length;
  const left =
    silent === 1 ? "1 silent track was left out" : `${silent} silent tracks were left out`;
  toast.success(silent > 0 ? `MIDI file made; ${left}` : "MIDI file made");
}
