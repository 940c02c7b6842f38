export {
  PLAIN_SOUND,
  SOUND_CONTROLS,
  type Shaping,
  type SoundControl,
  type SoundValues,
} from "./controls";
export {
  MIX_RANGES,
  type Mix,
  type MixField,
  PAD_SENDS,
  PLAIN_MIX,
  SENDS,
  SEND_OFF,
  SHELVES,
  type Send,
  type TrackMix,
  unducked,
} from "./mix";
export {
  PLAIN_SEND_EFFECTS,
  SEND_EFFECT_RANGES,
  type SendEffects,
  type SendEffectField,
  SYNCED,
  type SyncedTime,
  TIME_VALUES,
  sendEffectTime,
} from "./send-effects";
export { type Range, changed } from "./sparse";
export { panText, parsePan } from "./pan";
