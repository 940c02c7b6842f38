export {
  type Change,
  type PartEdit,
  type PatternHead,
  type ProjectHead,
  type SentChange,
  applyChange,
  diffProjects,
  headOf,
  patternHead,
} from "./diff";
export { withoutDuplicates } from "./duplicates";
export { mergeProjects, returning, same } from "./merge";
export { ProjectError, parseKeptProject, parseProject } from "./parse";
export { applyPackedChange, applyPartEdit, packChange, packedDiff } from "./part-edit";
export { KIT_PRESETS, presetProblems, soundPresets } from "./presets";
export { chordProblems, partProblems, songProblems, trackProblems } from "./references";
export { withoutDeadSources } from "./sources";
export {
  CARDS_AT_A_TIME,
  type Preset,
  type ProjectCard,
  type StoredProject,
  type UserGrids,
} from "./stored";
export { upgrade } from "./upgrade";
export { limitProblem } from "./limits";
export { shapedLike } from "./shaped-like";
