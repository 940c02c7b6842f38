"use client";
import { createContext, useContext, useEffect, useState, type ReactNode } from "react";
import { toast } from "sonner";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { nanoid } from "nanoid";
import { Engine } from "@/audio/engine";
import { sectionsOf } from "@/core/score";
import type { StoredProject } from "@/core/stored";
import { settings, watchSettings } from "../person/settings";
import { loadUser } from "../saving/user";
import type { Desk } from "./desk";
import { exposeProbe } from "./probe";
import { Saver } from "../saving/saver";
import { heardProject, workOf, type Work } from "../state/current";
import { keepsPlayed } from "./kept-played";
import { keepsHistory, restoreHistory } from "./kept-history";
import { Player } from "./player";
import { createSession, type Session } from "../state/store";

const DeskContext = createContext<Desk | null>(null);

/** Holds one open project: its state, its sound and its saving. */
export function SessionProvider({
  stored,
  children,
}: {
  stored: StoredProject;
  children: ReactNode;
}) {
  const [desk] = useState<Desk>(() => {
    const store = createSession(stored.id, stored.project);
    const problem = (text: string) => toast.error(text, { id: "sound" });
    const engine = new Engine(() => heardProject(store.getState()), problem);
    return { store, engine, player: new Player(store, engine) };
  });

  useEffect(() => {
    const { store, engine, player } = desk;
    const saver: Saver = new Saver(
      stored,
      {
        project: () => store.getState().project,
        replace: (project) => store.getState().replace(project),
        state: (save, message = "") => {
          store.getState().setSave(save, message);
          if (save === "waiting" && message) toast.error(message, { id: "waiting" });
          if (save === "saved") toast.dismiss("waiting");
          if (save !== "refused") return;
          const last = store.getState().history.past.at(-1)?.label;
          const edit = last ? `“${last}”` : "The last change";
          toast.error(
            `Not saved: ${message}. ${edit} is kept in this browser, and what was saved before is safe. Undo it, or change something else: that is sent again.`,
            { id: "not-saved", duration: 15_000 },
          );
        },
        returned: (names) =>
          toast.info(
            `${names.join(", ")} came back: deleted in one tab, changed in another. Both have it again.`,
          ),
        forked: () =>
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
          ),
      },
      // Of this page alone: a duplicated tab has a copy of what its tab keeps.
      nanoid(8),
    );
    let heard = heardProject(store.getState());
    const stopWatching = store.subscribe((now, before) => {
      if (now.project !== before.project) saver.changed(before.project);
      const last = heard;
      heard = heardProject(now);
      if (heard !== last) engine.refresh();
      if (now.notice && now.notice !== before.notice) toast.error(now.notice.text);
      if (now.perform !== before.perform || now.click !== before.click) tuneMetronome(engine, now);
      followPlaying(engine, now, before);
    });
    engine.prepare();
    const stopTuning = watchSettings(() => tuneMetronome(engine, store.getState()));
    store.getState().setHearing({ click: settings().clickWhen === "always" });
    tuneMetronome(engine, store.getState());
    void loadUser();
    const key = `${stored.id}/${tabId()}`;
    const stopKeeping = keepsHistory(store, stored.id, key);
    const stopRemembering = keepsPlayed(player, stored.id);
    // Once the project is what the earlier page left.
    void saver.pickUp().then(() => restoreHistory(store, stored.id, key));
    exposeProbe(desk);
    return () => {
      // What is held and recorded ends while it can still be saved.
      player.release();
      store.getState().setHearing({ playing: false });
      stopWatching();
      stopTuning();
      stopKeeping();
      saver.close();
      stopRemembering();
      engine.dispose();
    };
  }, [desk, stored]);

  return <DeskContext value={desk}>{children}</DeskContext>;
}

/** What plays goes along with what was chosen to play. */
function followPlaying(engine: Engine, now: Session, before: Session): void {
  if (!engine.isPlaying) return;
  if (now.plays !== before.plays) {
    if (now.plays === "pattern") engine.switchTo({ pattern: now.pattern });
    else engine.switchTo({ range: now.songLoop }, songTick(now));
  } else if (now.plays === "song") {
    if (now.songLoop !== before.songLoop) engine.setRange(now.songLoop);
  } else if (now.pattern !== before.pattern) {
    if (!now.stay) engine.switchPattern(now.pattern);
  } else if (now.patternLoop !== before.patternLoop) {
    const loop = now.patternLoop ?? before.patternLoop;
    if (loop?.pattern === now.pattern) engine.setRange(now.patternLoop?.range ?? null);
  }
}

/** Where the song goes on when it takes over from a pattern: at the current section, else where it starts. */
function songTick({ project, section, songStart, songLoop }: Session): number {
  const current = sectionsOf(project).find(({ entry }) => entry !== null && entry.id === section);
  const at = current?.at ?? songStart;
  if (!songLoop) return at;
  return at >= songLoop[0] && at < songLoop[1] ? at - songLoop[0] : 0;
}

/** When and how the metronome is heard, and what is known of the player's devices. */
function tuneMetronome(engine: Engine, { click, perform }: Session): void {
  const { clickWhen, clickSound, clickLevel, clickAccent, clickParts, latency } = settings();
  engine.click = click || (clickWhen === "recording" && perform.recording !== null);
  engine.metronome = {
    sound: clickSound,
    level: clickLevel,
    accent: clickAccent,
    parts: clickParts,
  };
  engine.inputLatency = latency;
}

/** Stays the same over a reload of this tab, differs between tabs. */
function tabId(): string {
  const known = sessionStorage.getItem("hailstep-tab");
  const id = known ?? nanoid(8);
  sessionStorage.setItem("hailstep-tab", id);
  return id;
}

/** The open project: its store and its sound. */
export function useDesk(): Desk {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error("No project is open here");
  return desk;
}

/** What panels depend on that work on the current part; scrolling and zooming do not render them. */
export const useWork = (): Work => useSession(useShallow(workOf));

/** A slice of the session's state; the component renders again only when the slice changes. */
export function useSession<T>(select: (state: Session) => T): T {
  return useStore(useDesk().store, select);
}
