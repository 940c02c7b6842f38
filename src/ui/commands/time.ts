import type { Desk } from "../session/desk";
import { beatTicks, patternTicks } from "@/core";
import { fitZoom, MAX_ZOOM, maxScroll, MIN_ZOOM, PAD } from "../geometry/view";
/** What is seen of time: its width in pixels, ticks in all, pixels per tick. */
function timeInView({ store }: Desk) {
  const { zoom: chosen, project, pattern, sheetWidth: width } = store.getState();
  const total = patternTicks(
    project,
    project.patterns.find((p) => p.id === pattern)!,
  );
  return { width, total, zoom: chosen ?? fitZoom(width, total, project.metre) };
}

function show(desk: Desk, zoom: number, left: number): void {
  const { width, total } = timeInView(desk);
  const held = Math.min(MAX_ZOOM, Math.max(MIN_ZOOM, zoom));
  const most = maxScroll(width, held, total);
  desk.store.setState({ zoom: held, scroll: Math.min(most, Math.max(0, left)) });
}

/** Zooms in time; the caret stays where it is on the screen. */
export function zoom(desk: Desk, factor: number): void {
  const { caret, scroll } = desk.store.getState();
  const from = timeInView(desk).zoom;
  const next = Math.min(MAX_ZOOM, Math.max(MIN_ZOOM, from * factor));
  show(desk, next, caret.tick - ((caret.tick - scroll) * from) / next);
}

/** As many bars as stay readable; when that is so already, all of them. */
export function fit(desk: Desk): void {
  const { width, total } = timeInView(desk);
  if (desk.store.getState().zoom === null) show(desk, (width - 2 * PAD) / total, 0);
  else desk.store.setState({ zoom: null, scroll: 0 });
}

/** The beat of the caret, as wide as the sheet. */
export function oneBeat(desk: Desk): void {
  const { caret, project } = desk.store.getState();
  const beat = beatTicks(project.metre);
  const { width } = timeInView(desk);
  show(desk, (width - 2 * PAD) / beat, Math.floor(caret.tick / beat) * beat);
}

export function scrollBy(desk: Desk, views: number): void {
  const { width, zoom: now } = timeInView(desk);
  show(desk, now, desk.store.getState().scroll + (views * width) / now);
}
