import type { SessionStore } from "../../state/store";

/** Hears version A, or the current version (B). */
export function compareVersions(store: SessionStore, a: boolean): void {
  const { versionA, project, setHearing, say } = store.getState();
  if (a && versionA === project) say("Nothing differs from version A");
  else {
    setHearing({ hearingA: a });
    say(a ? "Version A" : "Current version, B");
  }
}

/** Makes the current version A, to compare with later. */
export function setVersionA(store: SessionStore): void {
  const { project, setVersionA: set, say } = store.getState();
  set(project);
  say("Version A set");
}
