import { type Grid, barTicks, lineAt, msToTicks, nearestLine } from "@/core/time";
import { patternOf, tickInLoop } from "@/core/score";
import { currentMetre, currentPart, currentPlace } from "../../state/current";
import type { Desk } from "../../session/desk";
import type { SessionStore } from "../../state/store";
import { barsOf } from "./wishes";
import { changeSettings, settingsOf } from "./ideas";

/** No rhythm that is tapped has more. */
const MAX_TAPS = 256;

/** When the first tap of a rhythm was, in ms, where nothing plays. */
const series = new WeakMap<SessionStore, number>();

/**
 * A tap of the rhythm that ideas are to have, at a time of the page's clock: while the loop plays where it is heard
 * then; else counted from the first tap, which is the one, at the project's tempo. To the grid, where that is not off.
 */
export function tapRhythm({ store, engine }: Pick<Desk, "store" | "engine">, time: number): void {
  const state = store.getState();
  const { project, pattern } = state;
  const ticks = barsOf(project, currentPlace(state)) * barTicks(currentMetre(state));
  const { grid } = currentPart(state);
  const known = settingsOf(state).taps;
  const played = engine.playedAt(time);
  if (played) {
    const at = tickInLoop(project, patternOf(project, pattern), Math.max(0, played.tick), ticks);
    put(store, known, onGrid(grid, at) % ticks);
    return;
  }
  // What comes after all bars are over begins anew.
  const since = onGrid(grid, msToTicks(time - (series.get(store) ?? -Infinity), project.tempo));
  const goesOn = known.length > 0 && since < ticks;
  if (!goesOn) series.set(store, time);
  put(store, goesOn ? known : [], goesOn ? since : 0);
}

/** Forgets the rhythm that was tapped. */
export function clearTaps(store: SessionStore): void {
  series.delete(store);
  changeSettings(store, { taps: [] });
}

function put(store: SessionStore, known: readonly number[], tick: number): void {
  const taps = [...new Set([...known, tick])].sort((a, b) => a - b).slice(0, MAX_TAPS);
  changeSettings(store, { taps });
}

const onGrid = (grid: Grid, tick: number) =>
  Math.round(grid.kind === "off" ? tick : lineAt(grid, nearestLine(grid, tick)));
