import { clamp } from "@/core/base";
import { beatTicks } from "@/core/time";
import { MAX_ZOOM, MIN_ZOOM, PAD, maxScroll, minScroll, tickOf, xOf } from "../../geometry/view";
import { currentMetre } from "../../state/current";
import type { SessionStore } from "../../state/store";
import { timeInView } from "../../state/time";

/**
 * Shows time at `zoom` pixels per tick with a tick at `x` pixels from the left edge; both held to
 * what is possible.
 */
export function showAt(store: SessionStore, zoom: number, tick: number, x: number): void {
  const { width, total, early } = timeInView(store.getState());
  const held = clamp(zoom, MIN_ZOOM, MAX_ZOOM);
  const left = tick - (x - PAD) / held;
  const most = maxScroll(width, held, total);
  store.getState().setLook({ zoom: held, scroll: clamp(left, minScroll(held, early), most) });
}

/** Scrolls so that tick `left` is the first in view, held to the pattern; the zoom stays. */
export function scrollTo(store: SessionStore, left: number): void {
  const { width, total, zoom, early } = timeInView(store.getState());
  const most = maxScroll(width, zoom, total);
  store.getState().setLook({ scroll: clamp(left, minScroll(zoom, early), most) });
}

/** Zooms in time; the tick at `x` pixels from the left edge stays there. */
export function zoomAt(store: SessionStore, factor: number, x: number): void {
  const view = timeInView(store.getState());
  showAt(store, view.zoom * factor, tickOf(view, x), x);
}

/** Zooms in time; the caret stays where it is on the screen. */
export function zoomBy(store: SessionStore, factor: number): void {
  zoomAt(store, factor, xOf(timeInView(store.getState()), store.getState().caret.tick));
}

/** As many bars as stay readable; when that is so already, all of them. */
export function fitTime(store: SessionStore): void {
  const { width, total } = timeInView(store.getState());
  const { zoom, setLook } = store.getState();
  if (zoom === null) showAt(store, (width - 2 * PAD) / total, 0, PAD);
  else setLook({ zoom: null, scroll: 0 });
}

/** The beat of the caret, as wide as the sheet. */
export function showBeat(store: SessionStore): void {
  const { caret, project, pattern } = store.getState();
  const beat = beatTicks(currentMetre({ project, pattern }));
  const { width } = timeInView(store.getState());
  showAt(store, (width - 2 * PAD) / beat, Math.floor(caret.tick / beat) * beat, PAD);
}

/** Scrolls by some pixels, later where positive. */
export function scrollByPixels(store: SessionStore, pixels: number): void {
  const { scroll, zoom } = timeInView(store.getState());
  scrollTo(store, scroll + pixels / zoom);
}

/** Scrolls by some widths of the view, later where positive. */
export function scrollBy(store: SessionStore, views: number): void {
  scrollByPixels(store, views * timeInView(store.getState()).width);
}
