import { beatTicks, formatPosition } from "@/core";
import { currentTicks, currentMetre } from "../session/current";
import type { SoundDesk } from "../session/desk";
import type { SessionStore } from "../session/store";

/** Starts that are on their way: pressed again meanwhile, they are called off. */
const starting = new WeakMap<object, object>();

/** Plays the current pattern from where playing starts, or stops. A start that fails is said, and nothing is left half playing. */
export async function togglePlay({ store, engine }: SoundDesk): Promise<void> {
  const { pattern, playing, playStart, setHearing } = store.getState();
  if (playing || engine.isPlaying) {
    starting.delete(engine);
    engine.stop();
    setHearing({ playing: false });
    return;
  }
  await start({ store, engine }, pattern, Math.min(playStart, currentTicks(store.getState()) - 1));
}

/** Plays the current pattern from one of its ticks, whether it plays already or not; counted in by so many bars. Whether it plays. */
export async function playFrom(desk: SoundDesk, tick: number, countIn = 0): Promise<boolean> {
  const { pattern } = desk.store.getState();
  if (desk.engine.isPlaying) desk.engine.stop();
  return start(desk, pattern, tick, countIn);
}

async function start(
  { store, engine }: SoundDesk,
  pattern: string,
  tick: number,
  countIn = 0,
): Promise<boolean> {
  const { setHearing, say } = store.getState();
  const own = {};
  starting.set(engine, own);
  setHearing({ playing: true });
  try {
    await engine.play(pattern, Math.max(0, tick), countIn);
    // Stopped while it was starting: it must not go on unseen.
    if (starting.get(engine) === own) return true;
    engine.stop();
  } catch (error) {
    setHearing({ playing: false });
    say(`Not playing: ${(error as Error).message}. Press play to try again`);
  }
  return false;
}

/** Sets where playing starts: the beat nearest to a tick, inside the pattern. */
export function setPlayStart(store: SessionStore, tick: number): void {
  const { project, pattern, setHearing, say } = store.getState();
  const total = currentTicks({ project, pattern });
  const metre = currentMetre({ project, pattern });
  const beat = beatTicks(metre);
  const at = Math.min(total - beat, Math.max(0, Math.round(tick / beat) * beat));
  setHearing({ playStart: Math.max(0, at) });
  say(`Playing starts at ${formatPosition(Math.max(0, at), metre)}`);
}

/** Sounds a note that was just touched, unless the loop is playing. */
export function hearNote({ store, engine }: SoundDesk, pitch: number, velocity: number): void {
  const { playing, track } = store.getState();
  if (!playing) void engine.audition(track, pitch, velocity);
}
