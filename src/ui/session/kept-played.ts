import { type PlayedBend, type PlayedNote, REMEMBERED_MS } from "@/core/perform";
import { forgetPlayed, keepPlayed, keptPlayed } from "../saving/kept-played";
import { putOff } from "./keeping";
import type { Player } from "./player";

/** What was played is kept so long after it was, in ms, with all that was played meanwhile. */
const PAUSE_MS = 400;

/** Brings back what was played before this page was opened, and keeps what is. Gives a way to stop. */
export function keepsPlayed(player: Player, project: string): () => void {
  const notes = new Map<string, PlayedNote>();
  let bends: PlayedBend[] = [];
  let known = new Set<string>();
  const warn = (error: unknown) =>
    console.warn("What is played cannot be kept in this browser", error);
  const keeping = putOff(() => {
    const [now, keptBends] = [[...notes.values()], bends];
    notes.clear();
    bends = [];
    keepPlayed(project, now, keptBends).catch(warn);
  }, PAUSE_MS);
  const stop = player.listen((event) => {
    if (event.type === "bent") bends.push(event.bend);
    else if (event.type === "dropped") {
      const there = new Set(player.log.notes.map((note) => note.id));
      forgetPlayed([...known].filter((id) => !there.has(id))).catch(warn);
      known = there;
      return;
    } else {
      notes.set(event.note.id, event.note);
      known.add(event.note.id);
    }
    keeping.ask();
  });
  keptPlayed(project, Date.now() - REMEMBERED_MS)
    .then((kept) => {
      // A page that was closed with keys down never heard them come up.
      const ended = kept.notes.map((note) => ({ ...note, length: note.length ?? 1 }));
      player.log.restore(ended, kept.bends, Date.now());
      for (const note of kept.notes) known.add(note.id);
      player.changed();
    })
    .catch(warn);
  return () => {
    keeping.stop();
    stop();
  };
}
