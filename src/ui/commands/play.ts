import type { Desk } from "../session/desk";

/** Plays the current pattern, or stops. */
export async function togglePlay({ store, engine }: Desk): Promise<void> {
  const { pattern, setHearing } = store.getState();
  if (engine.isPlaying) {
    engine.stop();
    setHearing({ playing: false });
    return;
  }
  setHearing({ playing: true });
  await engine.play(pattern);
}

/** Sounds a note that was just touched, unless the loop is playing. */
export function hearNote({ store, engine }: Desk, pitch: number, velocity: number): void {
  const { playing, track } = store.getState();
  if (!playing) void engine.audition(track, pitch, velocity);
}
