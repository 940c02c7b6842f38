import { useEffect, useLayoutEffect, useMemo, useRef, useState, type RefObject } from "react";
import { useSize } from "../controls/use-size";
import { layOut, type SheetLayout } from "../geometry/layout";
import type { View } from "../geometry/view";
import { useDesk, useSession } from "../session/context";
import { useTimeView } from "../session/time-view";
import { effectiveProject } from "../state/current";

export type CanvasRef = RefObject<HTMLCanvasElement | null>;

/** Where everything lies on the sheet, and what of it is seen. */
export interface SheetView {
  layout: SheetLayout;
  view: View;
}

/** The sheet's rows and its window on them; `latest` is for what happens between two renderings. */
export function useSheetView(area: RefObject<HTMLDivElement | null>) {
  const { store } = useDesk();
  const project = useSession(effectiveProject);
  const pattern = useSession((state) => state.pattern);
  const open = useSession((state) => state.open);
  const allRows = useSession((state) => state.allRows);
  const windows = useSession((state) => state.windows);
  const tall = useSession((state) => state.tall);
  const [top, setTop] = useState(0);
  const { width, height } = useSize(area);

  useEffect(() => {
    if (width > 0) store.getState().setLook({ sheetWidth: width });
  }, [store, width]);

  const layout = useMemo(
    () => layOut(project, pattern, { open, allRows, windows, tall }),
    [project, pattern, open, allRows, windows, tall],
  );
  const time = useTimeView(width, layout.total);
  const view: View = useMemo(
    () => ({ ...time, height, top }),
    // The parts of `time` stand for it: it is a new object each time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [time.width, time.zoom, time.scroll, height, top],
  );

  const latest = useRef<SheetView>({ layout, view });
  useLayoutEffect(() => {
    latest.current = { layout, view };
  }, [layout, view]);
  return { layout, view, height, latest, setTop };
}
