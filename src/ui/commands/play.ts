import type { Desk } from "../session/desk";

/** Starts that are on their way: pressed again meanwhile, they are called off. */
const starting = new WeakMap<object, object>();

/** Plays the current pattern, or stops. A start that fails is said, and nothing is left half playing. */
export async function togglePlay({ store, engine }: Desk): Promise<void> {
  const { pattern, playing, setHearing, say } = store.getState();
  if (playing || engine.isPlaying) {
    starting.delete(engine);
    engine.stop();
    setHearing({ playing: false });
    return;
  }
  const own = {};
  starting.set(engine, own);
  setHearing({ playing: true });
  try {
    await engine.play(pattern);
    // Stopped while it was starting: it must not go on unseen.
    if (starting.get(engine) !== own) engine.stop();
  } catch (error) {
    setHearing({ playing: false });
    say(`Not playing: ${(error as Error).message}. Press play to try again`);
  }
}

/** Sounds a note that was just touched, unless the loop is playing. */
export function hearNote({ store, engine }: Desk, pitch: number, velocity: number): void {
  const { playing, track } = store.getState();
  if (!playing) void engine.audition(track, pitch, velocity);
}
