import type { Note, Project } from "@/core/score";
import type { Colours } from "../controls/colours";
import type { SheetLayout } from "../geometry/layout";
import type { ByTrack } from "../geometry/selected-on";
import type { View } from "../geometry/view";

/** Everything a picture of the sheet depends on. */
export interface Scene {
  project: Project;
  layout: SheetLayout;
  view: View;
  colours: Colours;
  selection: ReadonlySet<string>;
  /** What is selected on other tracks. */
  beside: ByTrack;
  track: string;
  /** Whether old places are shown where the chain or a preview changed them. */
  before: readonly Note[] | null;
  /** Whether other tracks' notes show behind those of the current track. */
  otherTracks: boolean;
}
