import { nanoid } from "nanoid";
import { toast } from "sonner";
import { Engine } from "@/audio/engine";
import type { StoredProject } from "@/core/stored";
import { loadUser } from "../saving/user";
import { effectiveProject } from "../state/current";
import { createSession, type SessionStore } from "../state/store";
import type { Desk } from "./desk";
import { keepsHistory, restoreHistory } from "./kept-history";
import { keepsPlayed } from "./kept-played";
import { Player } from "./player";
import { exposeProbe } from "./probe";
import { savesEdits } from "./saving";
import { playsAsChosen, soundsAsHeard, soundsAsSet } from "./sounding";

/** The state and the sound of a project, before anything goes on with them. */
export function makeDesk(stored: StoredProject): Desk {
  const store = createSession(stored.id, stored.project);
  const problem = (text: string) => toast.error(text, { id: "sound" });
  const engine = new Engine(() => effectiveProject(store.getState()), problem);
  return { store, engine, player: new Player(store, engine) };
}

/** Begins to save, sound and remember what is done to a project. Gives a way to close it. */
export function openProject(desk: Desk, stored: StoredProject): () => void {
  const { store, engine, player } = desk;
  const saver = savesEdits(store, stored);
  engine.prepare();
  void loadUser();
  const key = `${stored.id}/${tabId()}`;
  const stops = [
    store.subscribe((now, before) => {
      if (now.project !== before.project) saver.changed(before.project);
    }),
    soundsAsHeard(store, engine),
    soundsAsSet(store, engine),
    playsAsChosen(store, engine),
    tellsNotices(store),
    keepsHistory(store, stored.id, key),
  ];
  const stopRemembering = keepsPlayed(player, stored.id);
  // Once the project is what the earlier page left; what is pressed until then waits.
  store.getState().awaitHistory();
  void saver
    .pickUp()
    .catch(() => undefined)
    .then(() => restoreHistory(store, stored.id, key));
  exposeProbe(desk);
  return () => {
    // What is held and recorded ends while it can still be saved.
    player.release();
    store.getState().setHearing({ playing: false });
    for (const stop of stops) stop();
    saver.close();
    stopRemembering();
    engine.dispose();
  };
}

const tellsNotices = (store: SessionStore): (() => void) =>
  store.subscribe((now, before) => {
    if (now.notice && now.notice !== before.notice) toast.error(now.notice.text);
  });

/** Stays the same over a reload of this tab, differs between tabs. */
function tabId(): string {
  const known = sessionStorage.getItem("hailstep-tab");
  const id = known ?? nanoid(8);
  sessionStorage.setItem("hailstep-tab", id);
  return id;
}
