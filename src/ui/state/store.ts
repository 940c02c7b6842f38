import { createStore, type StoreApi } from "zustand/vanilla";
import type { Project } from "@/core/score";
import { arrangingSlice } from "./arranging";
import { editing, type Session } from "./editing";
import { entrySlice } from "./entry";
import { hearingSlice } from "./hearing";
import { ideasSlice } from "./ideas";
import { lookSlice } from "./look";
import { performSlice } from "./perform";
import { projectSlice } from "./project";
import { selectedSlice } from "./selected";
import { toolsSlice } from "./tools";

export type { Session } from "./editing";
/** The state of one open project, changed by the setters of its slices and by nothing else. */
export type SessionStore = Omit<StoreApi<Session>, "setState">;

/** The state of one open project, composed of its slices. */
export const createSession = (id: string, project: Project): SessionStore =>
  createStore<Session>()((set, get) => ({
    ...projectSlice(id, project, set),
    ...selectedSlice(project, set, get),
    ...toolsSlice(set),
    ...lookSlice(project, set, get),
    ...hearingSlice(project, set),
    ...arrangingSlice(set),
    ...entrySlice(set, get),
    ...ideasSlice(set, get),
    ...performSlice(set, get),
    ...editing(set, get),
  }));
