import { usual, type DrumStyle } from "./style";

/** One backbeat in the middle of the bar. */
export const halfTime: DrumStyle = {
  id: "half time",
  label: "Half time",
  about: "one backbeat, in the middle of the bar",
  anchors: (role, beats) =>
    role === "kick" ? [0] : role === "backbeat" ? [Math.floor(beats / 2)] : [],
  welcome: (role, place) => {
    const middle = place.beat === Math.floor(place.beats / 2) && place.part < 0.02;
    if (role === "kick") return middle ? 0.05 : place.beat >= place.beats / 2 ? 0.7 : 0.45;
    if (role === "backbeat") return place.part < 0.02 ? 0.03 : 0.3;
    return usual(role, place);
  },
};
