import { REMEMBERED_MS, type PlayedBend, type PlayedNote } from "@/core";
import { forgetPlayed, keepPlayed, keptPlayed } from "../saving/kept-played";
import type { Player } from "./player";

/** What was played is kept when nothing was for so long, in ms, and at the latest after so long. */
const PAUSE_MS = 400;

/** Brings back what was played before this page was opened, and keeps what is. Gives a way to stop. */
export function keepsPlayed(player: Player, project: string): () => void {
  const notes = new Map<string, PlayedNote>();
  let bends: PlayedBend[] = [];
  let known = new Set<string>();
  let timer: ReturnType<typeof setTimeout> | null = null;
  const warn = (error: unknown) =>
    console.warn("What is played cannot be kept in this browser", error);
  const keep = () => {
    if (timer) clearTimeout(timer);
    timer = null;
    const [now, wheel] = [[...notes.values()], bends];
    notes.clear();
    bends = [];
    keepPlayed(project, now, wheel).catch(warn);
  };
  const soon = () => {
    timer ??= setTimeout(keep, PAUSE_MS);
  };
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
    soon();
  });
  keptPlayed(project, Date.now() - REMEMBERED_MS)
    .then((kept) => {
      // A page that was closed with keys down never heard them come up.
      const ended = kept.notes.map((n) => ({ ...n, length: n.length ?? 1, ticks: n.ticks }));
      player.log.restore(ended, kept.bends, Date.now());
      for (const note of kept.notes) known.add(note.id);
      player.changed();
    })
    .catch(warn);
  const last = () => timer && keep();
  window.addEventListener("pagehide", last);
  return () => {
    last();
    stop();
    window.removeEventListener("pagehide", last);
  };
}
