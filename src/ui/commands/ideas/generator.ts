import type { DrumIdeaOptions, Idea, IdeaOptions, ProgressionOptions } from "@/core/generate";
import { RemoteWorker } from "@/workers/remote";
import type { Generator } from "@/workers/ideas.worker";

const generator = new RemoteWorker<Generator>(
  "The generator",
  () =>
    new Worker(new URL("../../../workers/ideas.worker.ts", import.meta.url), { type: "module" }),
);

/** Fetches the worker's script ahead of time, so that generating needs no server later. */
export const openGenerator = (): unknown => generator.open();

export type Wish =
  | { kind: "line"; options: Partial<IdeaOptions> }
  | { kind: "drums"; options: Partial<DrumIdeaOptions> }
  | { kind: "chords"; options: Partial<ProgressionOptions> };

/** Generates ideas beside the page's own thread; rejects with what is wrong with the options. */
export function generateInWorker(wish: Wish): Promise<Idea[]> {
  return generator.call((remote): Promise<Idea[]> => {
    if (wish.kind === "line") return remote.line(wish.options);
    return wish.kind === "drums" ? remote.drums(wish.options) : remote.chords(wish.options);
  });
}
