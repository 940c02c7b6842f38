import { toast } from "sonner";
import { soundingTracks, writeProjectJson, writeSmf } from "@/core";
import { heardProject, type Session } from "../session/store";

function download(body: BlobPart, type: string, name: string): void {
  const url = URL.createObjectURL(new Blob([body], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** Gives the project, or the pattern in hand, as a file. Made here, so it holds what is on screen. */
export function exportFile(state: Session, what: "pattern" | "all" | "json"): void {
  const { project } = state;
  const name = project.name.replace(/[\\/:*?"<>|]+/g, "_");
  if (what === "json") {
    download(writeProjectJson(project), "application/json", `${name}.json`);
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
