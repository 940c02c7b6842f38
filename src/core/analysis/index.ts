export { describeFit, fitGrid } from "./fit-grid";
export { LoudnessRun } from "./loudness-run";
export { type Lufs, gatedLoudness, kWeighting, loudness } from "./loudness";
export { type Picture, packPicture, unpackPicture } from "./picture";
export { thumbnail } from "./thumbnail";
export { type Timing, timingOf } from "./timing";
export { timingWords } from "./timing-words";
