import { backbeats, usual, type DrumStyle } from "./style";

/** A kick on every beat, hats between them. */
export const fourOnTheFloor: DrumStyle = {
  id: "four on the floor",
  label: "Four on the floor",
  about: "a kick on every beat, hats between them",
  anchors: (role, beats) =>
    role === "kick"
      ? Array.from({ length: beats }, (_, i) => i)
      : role === "backbeat"
        ? backbeats(beats)
        : [],
  welcome: (role, place) => {
    const between = Math.abs(place.part - 0.5) < 0.02;
    if (role === "pulse" || role === "open") return between ? 1 : 0.3;
    return role === "kick" ? 0.2 : usual(role, place);
  },
};
