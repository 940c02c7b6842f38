import type { Project } from "@/core/score";
import { parseProject } from "@/core/stored";
import { breakwater } from "./breakwater";
import { gullParade } from "./gull-parade";
import { lanternRow } from "./lantern-row";
import { nightFerry } from "./night-ferry";
import { slackWater } from "./slack-water";
import { tidemill } from "./tidemill";

/** The demo projects of a small harbour town, the one to open first last, as the newest. */
export function demoProjects(): Project[] {
  return [tidemill(), nightFerry(), lanternRow(), breakwater(), gullParade(), slackWater()].map(
    parseProject,
  );
}
