import { backbeats, usual, type DrumStyle } from "./style";

/** Beats and what leads into them: the last part of each. */
export const shuffled: DrumStyle = {
  id: "shuffled",
  label: "Shuffled",
  about: "beats and what leads into them",
  anchors: (role, beats) => (role === "kick" ? [0] : role === "backbeat" ? backbeats(beats) : []),
  welcome: (role, place) => {
    const on = place.part < 0.02;
    const leads = place.part > 0.6;
    if (role === "pulse") return on || leads ? 1 : 0.04;
    return usual(role, place) * (on ? 1 : leads ? 1.2 : 0.1);
  },
};
