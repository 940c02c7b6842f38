import type { SessionStore } from "../../state/store";

/** Hears version A, or the current version (B). */
export function compareVersions(store: SessionStore, a: boolean): void {
  const { versionA, project, setHearing, announce } = store.getState();
  if (a && versionA === project) announce("Nothing differs from version A");
  else {
    setHearing({ hearingA: a });
    announce(a ? "Version A" : "Current version, B");
  }
}

/** Makes the current version A, to compare with later. */
export function setVersionA(store: SessionStore): void {
  const { project, setVersionA: set, announce } = store.getState();
  set(project);
  announce("Version A set");
}
