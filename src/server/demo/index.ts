import { parseProject, type Project } from "@/core";
import { breakwater } from "./breakwater";
import { gullParade } from "./gull-parade";
import { slackWater } from "./slack-water";

/** The demo projects of a small harbour town, the one to open first last, as the newest. */
export function demoProjects(): Project[] {
  return [breakwater(), gullParade(), slackWater()].map(parseProject);
}
