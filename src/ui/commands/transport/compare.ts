import type { SessionStore } from "../../state/store";

/** Hears the project as it was kept, or as it is now. */
export function hear(store: SessionStore, which: "before" | "now"): void {
  const { keptBefore, project, setHearing, announce } = store.getState();
  const before = which === "before";
  if (before && keptBefore === project) announce("Nothing has changed since Before");
  else {
    setHearing({ hearingBefore: before });
    announce(before ? "Hearing Before" : "Hearing Now");
  }
}

/** Keeps what is there now as Before, to compare with later. */
export function keepAsBefore(store: SessionStore): void {
  const { project, keepAsBefore: set, announce } = store.getState();
  set(project);
  announce("Kept as Before");
}
