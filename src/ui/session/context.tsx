"use client";
import { createContext, useContext, useEffect, useState, type ReactNode } from "react";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type { StoredProject } from "@/core/stored";
import { workOf, type Work } from "../state/current";
import type { Session } from "../state/store";
import type { Desk } from "./desk";
import { makeDesk, openProject } from "./open";

const DeskContext = createContext<Desk | null>(null);

/** Holds one open project: its state, its sound and its saving. */
export function SessionProvider({
  stored,
  children,
}: {
  stored: StoredProject;
  children: ReactNode;
}) {
  const [desk] = useState(() => makeDesk(stored));
  useEffect(() => openProject(desk, stored), [desk, stored]);
  return <DeskContext value={desk}>{children}</DeskContext>;
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
