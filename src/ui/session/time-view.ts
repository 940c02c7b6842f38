import { useSession } from "./context";
import { fitZoom, maxScroll, type View } from "../geometry/view";

/** The view of time that the sheet and the velocity profile share. */
export function useTimeView(width: number, total: number): Pick<View, "width" | "zoom" | "scroll"> {
  const metre = useSession((s) => s.project.metre);
  const wanted = useSession((s) => s.zoom);
  const scroll = useSession((s) => s.scroll);
  const zoom = wanted ?? fitZoom(Math.max(200, width), total, metre);
  return { width, zoom, scroll: Math.min(scroll, maxScroll(width, zoom, total)) };
}
