import type { Desk } from "../session/desk";
export async function togglePlay({ store, engine }: Desk): Promise<void> {
  if (engine.isPlaying) {
    engine.stop();
    store.setState({ playing: false });
    return;
  }
  store.setState({ playing: true });
  await engine.play(store.getState().pattern);
}
