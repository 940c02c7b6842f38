import { useSession } from "./context";
import { timeView, type View } from "../geometry/view";
import { currentMetre, earlyTicks } from "../state/current";

/** The view of time that the sheet and the velocity profile share. */
export function useTimeView(width: number, total: number): Pick<View, "width" | "zoom" | "scroll"> {
  const metre = useSession(currentMetre);
  const zoom = useSession((state) => state.zoom);
  const scroll = useSession((state) => state.scroll);
  const early = useSession(earlyTicks);
  return timeView({ zoom, scroll }, { width, total, early, metre });
}
