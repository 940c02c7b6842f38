import { backbeats, usual, type DrumStyle } from "./style";

/** Three to a beat, as far as a lane's grid has them. */
export const triplets: DrumStyle = {
  id: "in triplets",
  label: "In triplets",
  about: "three to a beat, where a lane's grid has them",
  anchors: (role, beats) => (role === "kick" ? [0] : role === "backbeat" ? backbeats(beats) : []),
  welcome: (role, place) => {
    const thirds = Math.abs(place.part * 3 - Math.round(place.part * 3)) < 0.03;
    const fits = thirds ? 1 : 0.05;
    return role === "pulse" ? fits : fits * Math.max(0.3, usual(role, place));
  },
};
