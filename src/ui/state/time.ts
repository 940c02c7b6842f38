import { timeView } from "../geometry/view";
import { currentMetre, currentTicks, earlyTicks } from "./current";
import type { Session } from "./store";

/** What is seen of time on the sheet, the ticks there are, and how early the earliest hit is. */
export function timeInView(state: Session) {
  const total = currentTicks(state);
  const early = earlyTicks(state);
  const metre = currentMetre(state);
  const seen = timeView(state, { width: state.sheetWidth, total, early, metre });
  return { ...seen, height: 0, top: 0, total, early };
}
