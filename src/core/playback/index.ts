export { bendLine, bendSteps } from "./bends";
export { type PlaybackEvent, type PlaybackOptions, playbackEvents } from "./events";
export { lineTooLong, patternTooLarge, unfoldedNotes } from "./unfold";
export { lanePeriod, loopGroups, soundingTracks } from "./voices";
export { notesPastLoop } from "./past-loop";
