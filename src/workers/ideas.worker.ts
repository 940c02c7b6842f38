import {
  generateDrumIdeas,
  generateIdeas,
  type DrumIdeaOptions,
  type Idea,
  type IdeaOptions,
} from "@/core";

/** To the worker: what to generate, with a number for its answer. */
export type IdeasAsked = { number: number } & (
  | { kind: "line"; options: Partial<IdeaOptions> }
  | { kind: "drums"; options: Partial<DrumIdeaOptions> }
);
/** From the worker: ideas, or why there are none. */
export type IdeasGiven = { number: number; ideas: Idea[] } | { number: number; wrong: string };

self.onmessage = ({ data }: MessageEvent<IdeasAsked>) => {
  const { number } = data;
  let given: IdeasGiven;
  try {
    const ideas =
      data.kind === "line" ? generateIdeas(data.options) : generateDrumIdeas(data.options);
    given = { number, ideas };
  } catch (error) {
    given = { number, wrong: error instanceof Error ? error.message : String(error) };
  }
  self.postMessage(given);
};
