/** How often it is looked whether something sounds again. */
const IDLE_MS = 120;

/** Shows a state at a time in ms; gives whether there is more to show. */
type Show = (now: number) => boolean;

const watched = new Map<Show, () => boolean>();
let frame = 0;
let idle: ReturnType<typeof setInterval> | null = null;

/** One frame for all that is watched on the page. */
function showAll(now: number): void {
  let more = false;
  for (const show of watched.keys()) more = show(now) || more;
  frame = more ? requestAnimationFrame(showAll) : 0;
}

/** Shows something in every frame in which anything may be heard, or is still to be shown. Gives a way to stop. */
export function eachFrame(show: Show, sounding: () => boolean): () => void {
  watched.set(show, sounding);
  idle ??= setInterval(() => {
    if (frame === 0 && [...watched.values()].some((any) => any()))
      frame = requestAnimationFrame(showAll);
  }, IDLE_MS);
  return () => {
    watched.delete(show);
    if (watched.size > 0 || idle === null) return;
    clearInterval(idle);
    cancelAnimationFrame(frame);
    [idle, frame] = [null, 0];
  };
}
