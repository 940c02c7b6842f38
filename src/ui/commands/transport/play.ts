import { type Ticks, clamp } from "@/core/base";
import { beatTicks, formatPosition } from "@/core/time";
import { type ArrangementOptions, sectionsOf } from "@/core/score";
import { currentMetre, currentTicks } from "../../state/current";
import type { Session } from "../../state/editing";
import type { SoundDesk } from "../../session/desk";
import type { SessionStore } from "../../state/store";

/** Starts that are on their way: pressed again meanwhile, they are called off. */
const starting = new WeakMap<object, object>();

/** What plays: the song or the current pattern, or the stretch of it that is looped. */
export function playedOf(
  state: Pick<Session, "plays" | "pattern" | "songLoop" | "patternLoop">,
): ArrangementOptions {
  const { plays, pattern, songLoop, patternLoop } = state;
  if (plays === "song") return { range: songLoop };
  return { pattern, range: patternLoop?.pattern === pattern ? patternLoop.range : null };
}

/** A tick of the line as one of playing it: from the beginning of what is looped, if it lies before or after. */
function startIn(what: ArrangementOptions, tick: Ticks): Ticks {
  if (!what.range) return tick;
  const [from, to] = what.range;
  return tick >= from && tick < to ? tick - from : 0;
}

/** Plays the song or the current pattern from where playing starts, or stops. A start that fails is said, and nothing is left half playing. */
export async function togglePlay(desk: SoundDesk): Promise<void> {
  const { store, engine } = desk;
  const state = store.getState();
  const { playing, playStart, plays, songStart, setHearing } = state;
  if (playing || engine.isPlaying) {
    starting.delete(engine);
    engine.stop();
    setHearing({ playing: false });
    return;
  }
  const what = playedOf(state);
  const tick = plays === "song" ? songStart : Math.min(playStart, currentTicks(state) - 1);
  await start(desk, what, startIn(what, tick));
}

/** Plays the current pattern from one of its ticks, whether it plays already or not; counted in by so many bars. Whether it plays. */
export async function playFrom(desk: SoundDesk, tick: number, countIn = 0): Promise<boolean> {
  const { pattern, setArranging } = desk.store.getState();
  setArranging({ plays: "pattern" });
  if (desk.engine.isPlaying) desk.engine.stop();
  return start(desk, { pattern }, tick, countIn);
}

/** Plays the song from one of its ticks, whether it plays already or not. */
export async function playSongFrom(desk: SoundDesk, tick: Ticks): Promise<void> {
  const { store, engine } = desk;
  store.getState().setArranging({ plays: "song" });
  const what = playedOf(store.getState());
  if (engine.isPlaying) engine.stop();
  await start(desk, what, startIn(what, tick));
}

/** Plays from the caret: the song, where that plays and the current section is of the pattern, else the pattern. */
export async function playCaret(desk: SoundDesk, tick?: Ticks): Promise<void> {
  const { project, plays, section: id, pattern, caret } = desk.store.getState();
  const at = tick ?? caret.tick;
  const section = sectionsOf(project).find(({ entry }) => entry !== null && entry.id === id);
  if (plays !== "song" || section?.pattern.id !== pattern) {
    await playFrom(desk, at);
    return;
  }
  const inside = Math.max(0, at - section.skip);
  await playSongFrom(desk, section.at + Math.min(inside, section.length - 1));
}

async function start(
  { store, engine }: SoundDesk,
  what: ArrangementOptions,
  tick: number,
  countIn = 0,
): Promise<boolean> {
  const { setHearing, announce } = store.getState();
  const own = {};
  starting.set(engine, own);
  setHearing({ playing: true });
  try {
    await engine.play(what, Math.max(0, tick), countIn);
    // Stopped while it was starting: it must not go on unseen.
    if (starting.get(engine) === own) return true;
    engine.stop();
  } catch (error) {
    setHearing({ playing: false });
    announce(`Not playing: ${(error as Error).message}. Press play to try again`);
  }
  return false;
}

/** Sets where playing starts: the beat nearest to a tick, inside the pattern. */
export function setPlayStart(store: SessionStore, tick: number): void {
  const { project, pattern, setHearing, announce } = store.getState();
  const total = currentTicks({ project, pattern });
  const metre = currentMetre({ project, pattern });
  const beat = beatTicks(metre);
  const at = clamp(Math.round(tick / beat) * beat, 0, total - beat);
  setHearing({ playStart: Math.max(0, at) });
  announce(`Playing starts at ${formatPosition(Math.max(0, at), metre)}`);
}

/** Sounds a note that was just touched, unless the loop is playing. */
export function hearNote({ store, engine }: SoundDesk, pitch: number, velocity: number): void {
  const { playing, track } = store.getState();
  if (!playing) void engine.audition(track, pitch, velocity);
}
