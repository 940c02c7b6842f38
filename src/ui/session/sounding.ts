import type { Engine } from "@/audio/engine";
import { sectionsOf } from "@/core/score";
import { settings, watchSettings } from "../person/settings";
import { effectiveProject } from "../state/current";
import type { Session, SessionStore } from "../state/store";

/** Keeps levels, pans and sounds what they are in the project that is heard. Gives a way to stop. */
export function soundsAsHeard(store: SessionStore, engine: Engine): () => void {
  let effective = effectiveProject(store.getState());
  return store.subscribe((now) => {
    const last = effective;
    effective = effectiveProject(now);
    if (effective !== last) engine.refresh();
  });
}

/** Keeps the metronome, and what is known of the player's devices, as they are set. Gives a way to stop. */
export function soundsAsSet(store: SessionStore, engine: Engine): () => void {
  store.getState().setHearing({ click: settings().clickWhen === "always" });
  const tune = () => tuneMetronome(engine, store.getState());
  tune();
  const stops = [
    watchSettings(tune),
    store.subscribe((now, before) => {
      if (now.perform !== before.perform || now.click !== before.click) tune();
    }),
  ];
  return () => stops.forEach((stop) => stop());
}

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

/** Lets what plays go along with what was chosen to play. Gives a way to stop. */
export const playsAsChosen = (store: SessionStore, engine: Engine): (() => void) =>
  store.subscribe((now, before) => {
    if (engine.isPlaying) followChoice(engine, now, before);
  });

function followChoice(engine: Engine, now: Session, before: Session): void {
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
