import { nanoid } from "nanoid";
import { toast } from "sonner";
import type { StoredProject } from "@/core/stored";
import { Saver } from "../saving/saver";
import type { SessionStore } from "../state/store";

/** Saves each edit of an open project, and tells what a person must know of that. */
export function savesEdits(store: SessionStore, stored: StoredProject): Saver {
  const saver: Saver = new Saver(
    stored,
    {
      project: () => store.getState().project,
      replace: (project) => store.getState().replace(project),
      state: (save, message = "") => {
        store.getState().setSave(save, message);
        if (save === "waiting" && message) toast.error(message, { id: "waiting" });
        if (save === "saved") toast.dismiss("waiting");
        if (save === "refused") refused(store, message);
      },
      returned: (names) =>
        toast.info(
          `${names.join(", ")} came back: deleted in one tab, changed in another. Both have it again.`,
        ),
      forked: () => askWhichStays(saver),
    },
    // Of this page alone: a duplicated tab has a copy of what its tab keeps.
    nanoid(8),
  );
  return saver;
}

function refused(store: SessionStore, message: string): void {
  const last = store.getState().history.past.at(-1)?.label;
  const edit = last ? `“${last}”` : "The last change";
  toast.error(
    `Not saved: ${message}. ${edit} is kept in this browser, and what was saved before is safe. Undo it, or change something else: that is sent again.`,
    { id: "not-saved", duration: 15_000 },
  );
}

function askWhichStays(saver: Saver): void {
  toast.warning(
    "The server has another copy of this project, from an older file. What you see here is kept; nothing is sent until you choose.",
    {
      id: "forked",
      duration: Infinity,
      action: { label: "Keep what is here", onClick: () => saver.settleFork("here") },
      cancel: {
        label: "Replace with the server’s copy",
        onClick: () => saver.settleFork("server"),
      },
    },
  );
}
