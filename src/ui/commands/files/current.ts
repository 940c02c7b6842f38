import { trackOf } from "@/core/score";
import type { Current } from "@/core/formats";
import type { Session } from "../../state/editing";

/** What is current, as the formats want to know it. */
export function currentOf(state: Session): Current {
  const { pattern, track, caret, selection, beside: others, plays, songLoop, patternLoop } = state;
  const kit = track !== "" && trackOf(state.project, track).kind === "drums";
  const range =
    plays === "song"
      ? songLoop && { pattern: null, ticks: songLoop }
      : patternLoop?.pattern === pattern
        ? { pattern, ticks: patternLoop.range }
        : null;
  const beside = [...others].map(([track, ids]) => ({ track, notes: [...ids] }));
  const lane = kit ? caret.pitch : null;
  return { pattern, track, lane, selection: [...selection], beside, range };
}
