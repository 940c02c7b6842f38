"use client";
import { createContext, useContext, useEffect, useState, type ReactNode } from "react";
import { toast } from "sonner";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { nanoid } from "nanoid";
import { Engine } from "@/audio/engine";
import type { StoredProject } from "../saving/api";
import { loadUser } from "../saving/user";
import type { Desk } from "./desk";
import { exposeProbe } from "./probe";
import { Saver } from "../saving/saver";
import { createSession, heardProject, settled, workOf, type Session, type Work } from "./store";

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
    return { store, engine: new Engine(() => heardProject(store.getState())) };
  });

  useEffect(() => {
    const { store, engine } = desk;
    const saver = new Saver(
      stored,
      {
        project: () => store.getState().project,
        replace: (project) => store.setState(settled(store.getState(), project)),
        state: (save, saveMessage = "") => {
          store.setState({ save, saveMessage });
          if (save === "refused") toast.error(`Not saved, kept in this browser: ${saveMessage}`);
        },
      },
      tabId(),
    );
    const stopWatching = store.subscribe((now, before) => {
      if (now.project !== before.project) saver.changed();
      if (heardProject(now) !== heardProject(before)) engine.refresh();
      engine.click = now.click;
      if (now.pattern !== before.pattern) engine.switchPattern(now.pattern);
    });
    engine.prepare();
    void loadUser();
    void saver.pickUp();
    exposeProbe(store, engine);
    return () => {
      stopWatching();
      saver.close();
      engine.dispose();
      store.setState({ playing: false });
    };
  }, [desk, stored]);

  return <DeskContext value={desk}>{children}</DeskContext>;
}

/** Stays the same over a reload of this tab, differs between tabs. */
function tabId(): string {
  const known = sessionStorage.getItem("hailstep-tab");
  const id = known ?? nanoid(8);
  sessionStorage.setItem("hailstep-tab", id);
  return id;
}

export function useDesk(): Desk {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error("No project is open here");
  return desk;
}

/** What panels depend on that work on the part in hand; scrolling and zooming do not render them. */
export const useWork = (): Work => useSession(useShallow(workOf));

/** A slice of the session's state; the component renders again only when the slice changes. */
export function useSession<T>(select: (state: Session) => T): T {
  return useStore(useDesk().store, select);
}
