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
  PLAIN_ROOM,
  ROOM_RANGES,
  type Room,
  type RoomField,
  SYNCED,
  type SyncedTime,
  TIME_VALUES,
  roomTime,
} from "./room";
export { type Range, changed } from "./sparse";
