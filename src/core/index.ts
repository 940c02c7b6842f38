export {
  MAX_EARLY,
  METRES,
  PPQ,
  barTicks,
  beatTicks,
  beatsInBar,
  boundary,
  msPerTick,
  msToTicks,
  ticksToMs,
} from "./time/ticks";
export type { Metre } from "./time/ticks";
export {
  DEFAULT_GRID,
  GRID_KINDS,
  GRID_VALUES,
  SWING_RANGE,
  cellAt,
  driftOf,
  grid,
  gridLines,
  gridName,
  gridTicks,
  lineAt,
  nearestLine,
  stepGrid,
  stepTicks,
  steppedGrid,
} from "./time/grid";
export type { Grid, GridKind } from "./time/grid";
export {
  formatLength,
  formatLoop,
  formatPosition,
  parseLength,
  parsePosition,
} from "./time/position";
export { nearestNoteValue, tempoTable } from "./time/tempo-table";
export type { TempoRow } from "./time/tempo-table";
export {
  SCALES,
  degreeLabel,
  degreeOf,
  degreePitch,
  inKey,
  isScale,
  keyName,
  parsePitch,
  pitchClassName,
  pitchHz,
  pitchName,
  scalePitches,
  scaleSemitones,
  snapPitch,
} from "./pitch/scales";
export type { Key } from "./pitch/scales";
export {
  chordClasses,
  chordOnDegree,
  chordPitches,
  chordText,
  detectChord,
  inversionsOf,
  parseChord,
  readChord,
} from "./pitch/chords";
export type { Chord, Voicing } from "./pitch/chords";
export { PERCUSSION, padName } from "./pitch/percussion";
export {
  createProject,
  makeLane,
  makeNote,
  makePart,
  makePattern,
  makeTrack,
} from "./score/create";
export { LIMITS, SPREADS, rootId, sortNotes } from "./score/model";
export type {
  BendPoint,
  Recording,
  Starred,
  ChainStep,
  ChordMark,
  Generated,
  Lane,
  Note,
  ParamValue,
  Params,
  Part,
  Pattern,
  Project,
  SongEntry,
  Spread,
  Track,
} from "./score/model";
export {
  KIT_RANGES,
  MOST_VARIANTS,
  PAD_FILTERS,
  PAD_RANGES,
  PLAIN_KIT,
  padShapeOf,
  plainPad,
} from "./score/kit-shape";
export type { KitShape, PadField, PadFilter, PadShape, SampleRef } from "./score/kit-shape";
export { SOUND_CONTROLS, PLAIN_SOUND } from "./sound/controls";
export type { Shaping, SoundControl, SoundValues } from "./sound/controls";
export { MIX_RANGES, PAD_SENDS, PLAIN_MIX, SENDS, SEND_OFF, SHELVES } from "./sound/mix";
export type { Mix, MixField, Send, TrackMix } from "./sound/mix";
export { PLAIN_ROOM, ROOM_RANGES, SYNCED, TIME_VALUES, roomTime } from "./sound/room";
export type { Room, RoomField, RoomValues, SyncedTime } from "./sound/room";
export { changed } from "./sound/sparse";
export type { Range, Sparse } from "./sound/sparse";
export { KIT_PRESETS, soundPresets } from "./score/presets";
export { samplesOf } from "./score/samples";
export type { UsesSamples } from "./score/samples";
export { CARDS_AT_A_TIME } from "./stored";
export type { Preset, ProjectCard, StoredProject, UserGrids } from "./stored";
export { stutterCurve } from "./transforms/stutter";
export { withoutTwins } from "./score/twins";
export { makeClip, pasteClip } from "./score/clip";
export type { Clip } from "./score/clip";
export { limitProblem } from "./score/limits";
export { ProjectError, parseProject } from "./score/parse";
export { upgrade } from "./score/upgrade";
export { applyChange, diffProjects, headOf, patternHead } from "./score/diff";
export { applyPacked, applyPartEdit, packed, packedChange } from "./score/part-edit";
export type { Change, PartEdit, SentChange, PatternHead, ProjectHead } from "./score/diff";
export { mergeProjects, returning, same } from "./score/merge";
export * as edits from "./score/edits";
export { patternOf, partOf, trackOf } from "./score/edits/parts";
export type { Place } from "./score/edits/parts";
export { TRANSFORMS } from "./transforms/registry";
export type {
  Effect,
  ParamMeta,
  Transform,
  TransformContext,
  TransformResult,
} from "./transforms/kit";
export { PRESETS } from "./transforms/presets";
export { RHYTHM, formatSteps, parseSteps } from "./transforms/step-pattern";
export type { PatternStep } from "./transforms/step-pattern";
export { isShown } from "./transforms/kit";
export { evenSpread } from "./transforms/fill";
export { rollRate } from "./transforms/roll";
export { applyChain, contextOf, heardPart } from "./transforms/chain";
export { IDEA_DEFAULTS, generateIdeas, topLine } from "./generate/ideas";
export type { Idea, IdeaOptions } from "./generate/ideas";
export { FORMS, POOLS, ROLES, TONES, VELOCITY_SHAPES } from "./generate/options";
export type { ChordStretch, Role } from "./generate/options";
export { WITH, grooveSource, hasGaps } from "./generate/rhythm-from";
export type { RhythmSource, With } from "./generate/rhythm-from";
export {
  CHORD_ENDS,
  CHORD_RATES,
  PROGRESSION_DEFAULTS,
  generateProgressions,
} from "./generate/chords/progressions";
export type { ChordIdea, ProgressionOptions } from "./generate/chords/progressions";
export { SEVENTHS } from "./generate/chords/functions";
export { gaveWay } from "./generate/gave-way";
export { childrenOf } from "./generate/breed";
export { CHORD_MEASURES } from "./generate/chords/measures";
export { MEASURES, measuresOf } from "./generate/measures";
export type { Measured } from "./generate/measure";
export {
  CHOICE,
  NO_TASTE,
  chosenBy,
  learned,
  toChooseFrom,
  unlearned,
  weightsOf,
} from "./generate/taste";
export type { Taste } from "./generate/taste";
export { DRUM_IDEA_DEFAULTS, generateDrumIdeas } from "./generate/drum-ideas";
export type { DrumIdeaOptions, DrumLane } from "./generate/drum-options";
export { DRUM_STYLES } from "./generate/styles/registry";
export type { ValueWeight } from "./generate/rhythm";
export { lineTooLong, patternTooLarge, unfoldedNotes } from "./playback/unfold";
export { lowerBound } from "./search";
export { playbackEvents } from "./playback/events";
export type { PlaybackEvent, PlaybackOptions } from "./playback/events";
export {
  lineOf,
  metreOf,
  patternBar,
  patternTicks,
  placeOf,
  sectionBars,
  sectionsOf,
  songBar,
  tempoAt,
  tickInLoop,
  tickInPattern,
  totalTicks,
} from "./playback/sections";
export type { Line, LineOptions, Place as PlayingPlace, Section } from "./playback/sections";
export { timeMap } from "./playback/time-map";
export type { TimeMap } from "./playback/time-map";
export { shapeOf } from "./score/stars";
export { grooveOf, grooveText, parseGroove, type Groove } from "./groove/groove";
export { partDistance, variationsOf, type VaryOptions } from "./generate/vary";
export { sortChords } from "./score/model";
export { chordsOfText, textOfChords } from "./score/chord-text";
export { COLOURS, type Colour } from "./score/colours";
export {
  MOST_ROUNDS,
  conditionName,
  countedCondition,
  countedRounds,
  isCondition,
  withChance,
  withCondition,
  type Condition,
  type CountedRounds,
} from "./score/condition";
export { lanePeriod, soundingTracks } from "./playback/voices";
export { thumbnail } from "./analysis/thumbnail";
export { describeFit, fitGrid } from "./analysis/fit-grid";
export type { GridFit } from "./analysis/fit-grid";
export { timingOf } from "./analysis/timing";
export type { Timing } from "./analysis/timing";
export type { Thumbnail } from "./analysis/thumbnail";
export { plural } from "./words";
export type {
  Bpm,
  Cents,
  Decibels,
  Hertz,
  MidiPitch,
  Milliseconds,
  Pan,
  Percent,
  Seconds,
  Semitones,
  Ticks,
  Velocity,
} from "./units";
export { base64Of, bytesOfBase64 } from "./formats/base64";
export { FormatError } from "./formats/bytes";
export { ENCODINGS } from "./formats/smf-text";
export { readSmf } from "./formats/smf-read";
export type { SmfReport } from "./formats/smf-read";
export { DRUM_CHANNEL, melodicChannel, writeSmf } from "./formats/smf-write";
export {
  CONTOURS,
  PHRASE_BARS,
  PHRASE_DEFAULTS,
  PHRASE_FORMS,
  heightsOf,
} from "./generate/phrase-options";
export type { Contour, PhraseForm, PhraseWish } from "./generate/phrase-options";
export { heightAt } from "./generate/phrases";
export { FORMATS, READABLE, readFile, writeFile } from "./formats/registry";
export type {
  Current,
  ExportChoice,
  Extent,
  Format,
  ReadFile,
  ReadOptions,
  WrittenFile,
} from "./formats/format";
export { readProjectFile, readProjectJson, writeProjectJson } from "./formats/json";
export type { SampleFile } from "./formats/json";
export { barsHeard } from "./listen/put";
export { isBass } from "./formats/sounds";
export { AUDIO_TYPES, audioKind } from "./formats/audio-file";
export type { AudioKind } from "./formats/audio-file";
export { bendLine, wheelSteps } from "./playback/bends";
export { bendAt, bendSemitones, fromMiddle, overlaid, thinned, wheelCurve } from "./play/bend";
export { freeTempo } from "./play/free-tempo";
export type { FreeTempo } from "./play/free-tempo";
export { Hands } from "./play/hands";
export type { KeyDown, LiveNote } from "./play/hands";
export { KEY_LAYOUTS, PIANO_PLACES, keyAt, keyPitch, keyPlaces } from "./play/key-layout";
export type { KeyLayout, KeyPlace } from "./play/key-layout";
export { MidiStream, midiBytes } from "./play/midi-stream";
export type { MidiMessage } from "./play/midi-stream";
export {
  OVER_END,
  inLine,
  lengthInLoop,
  placeInLoop,
  roundOf,
  startInLoop,
  stepOf,
  tickInPart,
} from "./play/place";
export type { LoopOf, OverEnd, Placed } from "./play/place";
export { roundsPlayed } from "./play/rounds";
export type { PlayedRound } from "./play/rounds";
export { gatedLoudness, kWeighting, loudness } from "./analysis/loudness";
export type { Lufs } from "./analysis/loudness";
export { tapOffset } from "./play/latency";
export type { TapOffset } from "./play/latency";
export { PlayedLog, REMEMBERED_MS, lastEnd } from "./play/played";
export type { LoopPlace, PlayedBend, PlayedNote } from "./play/played";
export { tappedTempo } from "./time/tap-tempo";
export type { TappedTempo } from "./time/tap-tempo";
