import { beatTicks, patternOf, patternTicks } from "@/core";
import { MAX_ZOOM, MIN_ZOOM, PAD, fitZoom, maxScroll } from "../geometry/view";
import type { SessionStore } from "../session/store";

const clampZoom = (zoom: number) => Math.min(MAX_ZOOM, Math.max(MIN_ZOOM, zoom));

/** What is seen of time: its width in pixels, ticks in all, pixels per tick. */
function timeInView(store: SessionStore) {
  const { zoom, project, pattern, sheetWidth: width } = store.getState();
  const total = patternTicks(project, patternOf(project, pattern));
  return { width, total, zoom: zoom ?? fitZoom(width, total, project.metre) };
}

/** Shows time at `zoom` pixels per tick, from tick `left` on; both held to what is possible. */
export function showTime(store: SessionStore, zoom: number, left: number): void {
  const { width, total } = timeInView(store);
  const held = clampZoom(zoom);
  const most = maxScroll(width, held, total);
  store.getState().setLook({ zoom: held, scroll: Math.min(most, Math.max(0, left)) });
}

/** Scrolls so that tick `left` is the first in view, held to the pattern; the zoom stays. */
export function scrollTo(store: SessionStore, left: number): void {
  const { width, total, zoom } = timeInView(store);
  const most = maxScroll(width, zoom, total);
  store.getState().setLook({ scroll: Math.min(most, Math.max(0, left)) });
}

/** Zooms in time; the caret stays where it is on the screen. */
export function zoomBy(store: SessionStore, factor: number): void {
  const { caret, scroll } = store.getState();
  const from = timeInView(store).zoom;
  const next = clampZoom(from * factor);
  showTime(store, next, caret.tick - ((caret.tick - scroll) * from) / next);
}

/** As many bars as stay readable; when that is so already, all of them. */
export function fitTime(store: SessionStore): void {
  const { width, total } = timeInView(store);
  const { zoom, setLook } = store.getState();
  if (zoom === null) showTime(store, (width - 2 * PAD) / total, 0);
  else setLook({ zoom: null, scroll: 0 });
}

/** The beat of the caret, as wide as the sheet. */
export function showBeat(store: SessionStore): void {
  const { caret, project } = store.getState();
  const beat = beatTicks(project.metre);
  const { width } = timeInView(store);
  showTime(store, (width - 2 * PAD) / beat, Math.floor(caret.tick / beat) * beat);
}

/** Scrolls by some widths of the view, later where positive. */
export function scrollBy(store: SessionStore, views: number): void {
  const { width, zoom } = timeInView(store);
  scrollTo(store, store.getState().scroll + (views * width) / zoom);
}
