import { toast } from "sonner";
import { trackOf } from "@/core/score";
import {
  DRAGGED_FORMAT,
  type Extent,
  base64Of,
  formatOf,
  scopeOf,
  writeFile,
} from "@/core/formats";
import { currentPart, effectiveProject } from "../../state/current";
import type { Session } from "../../state/editing";
import type { SessionStore } from "../../state/store";
import { fileName } from "./download";
import { currentOf } from "./current";

/** What is carried out of the window: what is selected; else the current lane of a kit, if it has hits; else the part. */
export function draggedExtent(state: Session): Extent {
  const { lane, selection } = currentOf(state);
  if (selection.length > 0) return "selection";
  const hits = lane !== null && currentPart(state).notes.some((note) => note.pitch === lane);
  return hits ? "lane" : "track";
}

/** The same in words. */
export const draggedName = (extent: Extent): string =>
  ({ selection: "the selection", lane: "the lane" })[extent as string] ?? "the part";

/** It as a file of notes. */
function draggedFile(state: Session): { name: string; type: string; bytes: Uint8Array } {
  const current = currentOf(state);
  const project = effectiveProject(state);
  const scope = { ...scopeOf(draggedExtent(state), current) };
  const { body, extension, type } = writeFile(project, DRAGGED_FORMAT, scope);
  const { name } = trackOf(project, current.track);
  return {
    name: `${fileName(`${project.name} ${name}`)}.${extension}`,
    type,
    bytes: body as Uint8Array,
  };
}

/** Puts the file on a drag that leaves the window: the desktop or another program gets it where it is let go. */
export function dragOut(store: SessionStore, transfer: DataTransfer): void {
  const { name, type, bytes } = draggedFile(store.getState());
  const url = `data:${type};base64,${base64Of(bytes)}`;
  transfer.effectAllowed = "copy";
  // “DownloadURL” is what Chromium knows a dragged file by: type, name and where it is. Not in a standard.
  transfer.setData("DownloadURL", `${type}:${name}:${url}`);
  transfer.setData("text/uri-list", url);
}

/** Puts the file on the clipboard, where the browser can. */
export async function copyAsFile(store: SessionStore): Promise<void> {
  const state = store.getState();
  try {
    const { bytes, type: own } = draggedFile(state);
    const type = `web ${own}`;
    if (typeof ClipboardItem === "undefined" || !navigator.clipboard)
      throw new Error("this browser has no clipboard for files");
    await navigator.clipboard.write([
      new ClipboardItem({ [type]: new Blob([bytes as BlobPart], { type }) }),
    ]);
    toast.success(
      `Copied ${draggedName(draggedExtent(state))} as a ${formatOf(DRAGGED_FORMAT).label}`,
    );
  } catch (error) {
    toast.error(`Not copied as a file: ${(error as Error).message}`);
  }
}
