import { toast } from "sonner";
import { trackOf } from "@/core/score";
import { type Extent, FORMATS, base64Of, writeFile } from "@/core/formats";
import { currentPart, heardProject } from "../../state/current";
import type { Session } from "../../state/editing";
import type { SessionStore } from "../../state/store";
import { fileName } from "./download";
import { currentOf } from "./exporting";

/** What is carried out of the window: what is selected; else the current lane of a kit, if it has hits; else the part. */
export function carriedExtent(state: Session): Extent {
  const { lane, selection } = currentOf(state);
  if (selection.length > 0) return "selection";
  const hits = lane !== null && currentPart(state).notes.some((note) => note.pitch === lane);
  return hits ? "lane" : "track";
}

/** The same in words. */
export const carriedName = (extent: Extent): string =>
  ({ selection: "the selection", lane: "the lane" })[extent as string] ?? "the part";

/** It as a MIDI file. */
function carriedFile(state: Session): { name: string; bytes: Uint8Array } {
  const { asks, extensions } = FORMATS.midi!;
  const current = currentOf(state);
  const options = asks!.options!(asks!.defaults, carriedExtent(state), current);
  const project = heardProject(state);
  const { body } = writeFile(project, "midi", options);
  const { name } = trackOf(project, current.track);
  return {
    name: `${fileName(`${project.name} ${name}`)}.${extensions[0]}`,
    bytes: body as Uint8Array,
  };
}

/** Puts the file on a drag that leaves the window: the desktop or another program gets it where it is let go. */
export function dragOut(store: SessionStore, transfer: DataTransfer): void {
  const { name, bytes } = carriedFile(store.getState());
  const url = `data:audio/midi;base64,${base64Of(bytes)}`;
  transfer.effectAllowed = "copy";
  // “DownloadURL” is what Chromium knows a dragged file by: type, name and where it is. Not in a standard.
  transfer.setData("DownloadURL", `audio/midi:${name}:${url}`);
  transfer.setData("text/uri-list", url);
}

/** Puts the file on the clipboard, where the browser can. */
export async function copyAsFile(store: SessionStore): Promise<void> {
  const state = store.getState();
  try {
    const { bytes } = carriedFile(state);
    const type = "web audio/midi";
    if (typeof ClipboardItem === "undefined" || !navigator.clipboard)
      throw new Error("this browser has no clipboard for files");
    await navigator.clipboard.write([
      new ClipboardItem({ [type]: new Blob([bytes as BlobPart], { type }) }),
    ]);
    toast.success(`Copied ${carriedName(carriedExtent(state))} as a MIDI file`);
  } catch (error) {
    toast.error(`Not copied as a file: ${(error as Error).message}`);
  }
}
