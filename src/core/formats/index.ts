export { base64Of, bytesOfBase64 } from "./container/base64";
export { FormatError } from "./container/bytes";
export { parseJsonText } from "./container/parse-json";
export type { Current, ExportChoice, Extent, ReadOptions } from "./format";
export { readMusicXml } from "./musicxml/read";
export { writeMusicXml } from "./musicxml/write";
export { isBass, programOf, soundOf } from "./programs";
export {
  type SampleFile,
  readProjectFile,
  readProjectJson,
  writeProjectJson,
} from "./project/json";
export { FORMATS, READABLE, readFile, writeFile } from "./registry";
export { readSmf } from "./smf/read";
export { ENCODINGS } from "./smf/text";
export { DRUM_CHANNEL, melodicChannel, writeSmf } from "./smf/write";
export { AUDIO_TYPES, audioKind } from "./sound/audio-file";
export { type WaveOptions, encodeWave, waveAround, waveFile, wholeSamples } from "./sound/wave";
