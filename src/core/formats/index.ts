export { base64Of, bytesOfBase64 } from "./container/base64";
export { FormatError } from "./container/bytes";
export { parseJsonText } from "./container/parse-json";
export { DRUM_CHANNEL, melodicChannel } from "./smf/channels";
export type { FileRequest, Format, ReadOptions, SampleFile, SoundRequest } from "./common/format";
export { type Current, type Extent, scopeOf } from "./common/scope";
export { readMusicXml } from "./musicxml/read";
export { writeMusicXml } from "./musicxml/write";
export { isBass, programOf, soundOfProgram } from "./common/programs";
export { readProjectFile, readProjectJson, writeProjectJson } from "./project/json";
export {
  DRAGGED_FORMAT,
  FORMATS,
  READABLE,
  formatOf,
  readFile,
  requestOfTexts,
  writeFile,
} from "./registry";
export { readSmf } from "./smf/read";
export { ENCODINGS } from "./smf/text";
export { writeSmf } from "./smf/write";
export { AUDIO_TYPES, audioKind } from "./sound/audio-file";
export { type WaveOptions, encodeWave, waveAround, waveFile, wholeSamples } from "./sound/wave";
export { nextFree } from "./import/names";
