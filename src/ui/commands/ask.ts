import type { Idea } from "@/core";
import type { IdeasAsked, IdeasGiven } from "../../workers/ideas.worker";

let worker: Worker | null = null;
let number = 0;
const waiting = new Map<number, (given: IdeasGiven) => void>();

/** Fetches the worker's script ahead of time, so that asking needs no server later. */
export function openIdeas(): Worker {
  if (!worker) {
    worker = new Worker(new URL("../../workers/ideas.worker.ts", import.meta.url), {
      type: "module",
    });
    worker.onmessage = ({ data }: MessageEvent<IdeasGiven>) => {
      waiting.get(data.number)?.(data);
      waiting.delete(data.number);
    };
  }
  return worker;
}

type Wish = IdeasAsked extends infer A ? (A extends IdeasAsked ? Omit<A, "number"> : never) : never;

/** Generates ideas beside the page's own thread; rejects with what is wrong with the options. */
export function askIdeas(wish: Wish): Promise<Idea[]> {
  const own = ++number;
  return new Promise((resolve, reject) => {
    waiting.set(own, (given) =>
      "ideas" in given ? resolve(given.ideas) : reject(new RangeError(given.wrong)),
    );
    openIdeas().postMessage({ ...wish, number: own });
  });
}
