import { type DrumStyle } from "./style";

/** The one, one answer, and much air. */
export const sparse: DrumStyle = {
  id: "sparse",
  label: "Sparse",
  about: "the one, one answer, and much air",
  anchors: (role, beats) =>
    role === "kick" ? [0] : role === "backbeat" ? [Math.floor(beats / 2)] : [],
  welcome: (role, { beat, part, beats }) => {
    if (role === "pulse") return part < 0.02 ? 1 : 0.2;
    // What there is besides stands late in the bar.
    return part < 0.02 ? 0.1 : beat >= beats - 2 ? 0.6 : 0.1;
  },
};
