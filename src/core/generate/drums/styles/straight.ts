import { backbeats, usual, type DrumStyle } from "./style";

/** Kick and backbeat in turn, the pulse carries. */
export const straight: DrumStyle = {
  id: "straight",
  label: "Straight",
  about: "kick and backbeat in turn, the pulse carries",
  anchors: (role, beats) => (role === "kick" ? [0] : role === "backbeat" ? backbeats(beats) : []),
  welcome: usual,
};
