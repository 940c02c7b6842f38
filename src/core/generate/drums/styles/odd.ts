import { usual, type DrumStyle } from "./style";
import { nth, lastOf } from "../../../base";

/** Groups of two and three: kicks begin them, the backbeat begins the long one. */
export function groupsOf(beats: number): number[] {
  const starts: number[] = [];
  let at = 0;
  // Twos, and one three at the end where they do not come out even: 7 is 2 + 2 + 3.
  while (beats - at > 3) {
    starts.push(at);
    at += 2;
  }
  if (beats - at > 0) starts.push(at);
  return starts;
}

export const odd: DrumStyle = {
  id: "in groups",
  label: "In groups",
  about: "groups of two and three, for odd metres",
  anchors: (role, beats) => {
    const starts = groupsOf(beats);
    if (role === "kick") return starts.length > 2 ? [0, nth(starts, 1)] : [0];
    return role === "backbeat" && starts.length > 1 ? [lastOf(starts)] : [];
  },
  welcome: (role, place) => {
    const begins = groupsOf(place.beats).includes(place.beat) && place.part < 0.02;
    if (role === "kick") return begins ? 0.7 : 0.3;
    if (role === "pulse") return begins ? 1 : 0.7;
    return usual(role, place);
  },
};
