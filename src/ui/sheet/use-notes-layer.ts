import { useEffect, useRef } from "react";
import { isOtherSize, prepareCanvas } from "../controls/canvas";
import { readColours } from "../controls/colours";
import { changedBands } from "../paint/bands";
import { drawSheet } from "../paint/draw";
import type { Scene } from "../paint/scene";
import { useTheme } from "../person/theme";
import { useSession } from "../session/context";
import { currentPart, effectiveProject, trialOf } from "../state/current";
import type { CanvasRef, SheetView } from "./use-sheet-view";

/** Draws the notes' layer once per frame, after anything it shows has changed. */
export function useNotesLayer(canvas: CanvasRef, { layout, view }: SheetView): void {
  const theme = useTheme();
  const effective = useSession(effectiveProject);
  const selection = useSession((state) => state.selection);
  const beside = useSession((state) => state.beside);
  const track = useSession((state) => state.track);
  const otherTracks = useSession((state) => state.showOthers);
  const before = useSession((state) => {
    if (!state.track || state.hearingBefore) return null;
    const part = currentPart(state);
    const changed =
      state.preview !== null ||
      (!state.bypassed && (trialOf(state) !== null || part.chain.some((step) => step.on)));
    return changed ? part.notes : null;
  });
  const drawn = useRef<Scene | null>(null);
  useEffect(() => {
    if (view.width === 0) return;
    const frame = requestAnimationFrame(() => {
      const element = canvas.current;
      const fresh = element !== null && isOtherSize(element, view.width, view.height);
      const ctx = element && prepareCanvas(element, view.width, view.height);
      if (!ctx) return;
      const scene = {
        project: effective,
        layout,
        view,
        colours: readColours(),
        selection,
        beside,
        track,
        before,
        otherTracks,
      };
      drawSheet(ctx, scene, fresh ? null : changedBands(drawn.current, scene));
      drawn.current = scene;
    });
    return () => cancelAnimationFrame(frame);
  }, [canvas, layout, view, theme, effective, selection, beside, track, before, otherTracks]);
}
