export { childrenOf } from "./breed";
export { SEVENTHS } from "./chords/functions";
export {
  CHORD_ENDS,
  CHORD_RATES,
  type ChordIdea,
  type ProgressionOptions,
  generateProgressions,
} from "./chords/progressions";
export { DRUM_IDEA_DEFAULTS, generateDrumIdeas } from "./drums/ideas";
export type { DrumIdeaOptions } from "./drums/options";
export { DRUM_STYLES } from "./drums/styles/registry";
export { type Idea, topLine } from "./common/idea";
export { FORMS, ROLES, VELOCITY_SHAPES } from "./common/options";
export { POOLS } from "./line/options";
export { chordStretches } from "./common/stretches";
export { TONES } from "./common/tones";
export { generateIdeas } from "./ideas";
export { CHORD_MEASURES } from "./judge/chord-measures";
export type { Measured } from "./judge/measure";
export { MEASURES, measuresOf } from "./judge/measures";
export {
  CHOICE,
  NO_TASTE,
  type Taste,
  chosenBy,
  learned,
  toChooseFrom,
  unlearned,
  weightsOf,
} from "./judge/taste";
export { IDEA_DEFAULTS, type IdeaOptions } from "./options";
export {
  CONTOURS,
  type Contour,
  PHRASE_BARS,
  PHRASE_DEFAULTS,
  PHRASE_FORMS,
  type PhraseForm,
  type PhraseWish,
  heightsOf,
} from "./phrase/options";
export { heightAt } from "./phrase/phrases";
export type { ValueWeight } from "./rhythm/slots";
export { type RhythmSource, WITH, grooveSource } from "./rhythm/source";
export { shortfallsOf } from "./shortfalls";
export { STARTS, type Start, startOf } from "./start";
export { variationsOf } from "./vary";
