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
export { KIT_PRESETS, soundPresets } from "./stored/presets";
export { samplesOf } from "./score/samples";
export type { UsesSamples } from "./score/samples";
export { CARDS_AT_A_TIME } from "./stored/stored";
export type { Preset, ProjectCard, StoredProject, UserGrids } from "./stored/stored";
export { stutterCurve } from "./transforms/stutter";
export { withoutTwins } from "./stored/duplicates";
export { makeClip, pasteClip } from "./edits/clip";
export type { Clip } from "./edits/clip";
export { limitProblem } from "./edits/limits";
export { ProjectError, parseProject } from "./stored/parse";
export { upgrade } from "./stored/upgrade";
export { applyChange, diffProjects, headOf, patternHead } from "./stored/diff";
export { applyPacked, applyPartEdit, packed, packedChange } from "./stored/part-edit";
export type { Change, PartEdit, SentChange, PatternHead, ProjectHead } from "./stored/diff";
export { mergeProjects, returning, same } from "./stored/merge";
export * as edits from "./edits";
export { patternOf, partOf, trackOf } from "./score/parts";
export type { PartAddress } from "./score/parts";
export { TRANSFORMS } from "./transforms/registry";
export type {
  Effect,
  ParamMeta,
  Transform,
  TransformContext,
  TransformResult,
} from "./transforms/kit";
export { PRESETS } from "./transforms/presets";
export { RHYTHM, formatSteps, parseSteps } from "./params/step-pattern";
export type { PatternStep } from "./params/step-pattern";
export { isShown } from "./transforms/kit";
export { evenSpread } from "./transforms/fill";
export { rollRate } from "./transforms/roll";
export { applyChain, contextOf, heardPart } from "./transforms/chain";
export { IDEA_DEFAULTS, generateIdeas, topLine } from "./generate/ideas";
export type { Idea, IdeaOptions } from "./generate/ideas";
export { FORMS, POOLS, ROLES, TONES, VELOCITY_SHAPES } from "./generate/options";
export type { ChordStretch, Role } from "./generate/options";
export { WITH, grooveSource, hasGaps } from "./generate/rhythm/source";
export type { RhythmSource, With } from "./generate/rhythm/source";
export {
  CHORD_ENDS,
  CHORD_RATES,
  PROGRESSION_DEFAULTS,
  generateProgressions,
} from "./generate/chords/progressions";
export type { ChordIdea, ProgressionOptions } from "./generate/chords/progressions";
export { SEVENTHS } from "./generate/chords/functions";
export { gaveWay } from "./generate/shortfalls";
export { childrenOf } from "./generate/breed";
export { CHORD_MEASURES } from "./generate/judge/chord-measures";
export { MEASURES, measuresOf } from "./generate/judge/measures";
export type { Measured } from "./generate/judge/measure";
export {
  CHOICE,
  NO_TASTE,
  chosenBy,
  learned,
  toChooseFrom,
  unlearned,
  weightsOf,
} from "./generate/judge/taste";
export type { Taste } from "./generate/judge/taste";
export { DRUM_IDEA_DEFAULTS, generateDrumIdeas } from "./generate/drums/ideas";
export type { DrumIdeaOptions, DrumLane } from "./generate/drums/options";
export { DRUM_STYLES } from "./generate/drums/styles/registry";
export type { ValueWeight } from "./generate/rhythm/slots";
export { lineTooLong, patternTooLarge, unfoldedNotes } from "./playback/unfold";
export { lowerBound } from "./base/search";
export { playbackEvents } from "./playback/events";
export type { PlaybackEvent, PlaybackOptions } from "./playback/events";
export {
  arrangementOf,
  metreOf,
  patternBar,
  patternTicks,
  songPositionAt,
  sectionBars,
  sectionsOf,
  songBar,
  tempoAt,
  tickInLoop,
  tickInPattern,
  totalTicks,
} from "./score/sections";
export type { Arrangement, ArrangementOptions, SongPosition, Section } from "./score/sections";
export { timeMap } from "./score/time-map";
export type { TimeMap } from "./score/time-map";
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
export { plural } from "./base/plural";
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
} from "./base/units";
export { base64Of, bytesOfBase64 } from "./formats/container/base64";
export { FormatError } from "./formats/container/bytes";
export { ENCODINGS } from "./formats/smf/text";
export { readSmf } from "./formats/smf/read";
export type { SmfReport } from "./formats/smf/read";
export { DRUM_CHANNEL, melodicChannel, writeSmf } from "./formats/smf/write";
export {
  CONTOURS,
  PHRASE_BARS,
  PHRASE_DEFAULTS,
  PHRASE_FORMS,
  heightsOf,
} from "./generate/phrase/options";
export type { Contour, PhraseForm, PhraseWish } from "./generate/phrase/options";
export { heightAt } from "./generate/phrase/phrases";
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
export { readProjectFile, readProjectJson, writeProjectJson } from "./formats/project/json";
export type { SampleFile } from "./formats/project/json";
export { barsHeard } from "./listen/put";
export { isBass } from "./formats/programs";
export { AUDIO_TYPES, audioKind } from "./formats/sound/audio-file";
export type { AudioKind } from "./formats/sound/audio-file";
export { bendLine, wheelSteps } from "./playback/bends";
export { bendAt, bendSemitones, fromMiddle, overlaid, thinned, wheelCurve } from "./score/bend";
export { freeTempo } from "./perform/free-tempo";
export type { FreeTempo } from "./perform/free-tempo";
export { Hands } from "./perform/held-notes";
export type { KeyDown, LiveNote } from "./perform/held-notes";
export { KEY_LAYOUTS, PIANO_PLACES, keyAt, keyPitch, keyPlaces } from "./perform/key-layout";
export type { KeyLayout, KeyPlace } from "./perform/key-layout";
export { MidiStream, midiBytes } from "./perform/midi-stream";
export type { MidiMessage } from "./perform/midi-stream";
export {
  OVER_END,
  inLine,
  lengthInLoop,
  placeInLoop,
  roundOf,
  startInLoop,
  stepOf,
  tickInPart,
} from "./perform/place";
export type { LoopOf, OverEnd, Placed } from "./perform/place";
export { roundsPlayed } from "./perform/loops-played";
export type { PlayedRound } from "./perform/loops-played";
export { gatedLoudness, kWeighting, loudness } from "./analysis/loudness";
export type { Lufs } from "./analysis/loudness";
export { tapOffset } from "./perform/latency";
export type { TapOffset } from "./perform/latency";
export { PlayedLog, REMEMBERED_MS, lastEnd } from "./perform/played";
export type { LoopPlace, PlayedBend, PlayedNote } from "./perform/played";
export { tappedTempo } from "./perform/tap-tempo";
export type { TappedTempo } from "./perform/tap-tempo";
