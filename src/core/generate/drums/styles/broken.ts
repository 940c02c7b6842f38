import { backbeats, usual, type DrumStyle } from "./style";

/** Backbeats stay, the kick goes round them. */
export const broken: DrumStyle = {
  id: "broken",
  label: "Broken",
  about: "backbeats stay, the kick goes round them",
  anchors: (role, beats) => (role === "kick" ? [0] : role === "backbeat" ? backbeats(beats) : []),
  welcome: (role, place) => {
    if (role !== "kick") return usual(role, place);
    // Between the beats rather than on them.
    return place.part < 0.02 ? 0.12 : Math.abs(place.part - 0.5) < 0.02 ? 0.9 : 0.75;
  },
};
