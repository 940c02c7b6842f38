import { jobKey, type PadRenderer } from "../pads/render";

/** Renders each pad once: pieces that are rendered beside each other share what they sound with. */
export function keeping(render: PadRenderer): PadRenderer {
  const made = new Map<string, ReturnType<PadRenderer>>();
  return (job) => {
    const key = jobKey(job);
    let sound = made.get(key);
    if (!sound) {
      made.set(key, (sound = render(job)));
      sound.catch(() => made.delete(key));
    }
    return sound;
  };
}
