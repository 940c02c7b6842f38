import type { Decibels } from "../../base";
import { type Key, isScale, keyName } from "../../pitch";
import { LIMITS } from "../../score";

/** Whether a text is one that `writeSmf` adds, to say what the events of the standard cannot. */
export const isOwnText = (text: string): boolean =>
  /^(Key: \d|Level: |Also on channels: )/.test(text);

/** `<root 0–11> <scale>`: what `readSmf` finds the exact key by. */
export function keyText(key: Key): string {
  return `${key.root} ${key.scale} (${keyName(key)})`;
}

/** The exact key, since a key signature knows major and minor only; null where a text says none. */
export function readKeyText(text: string): Key | null {
  const [, root, scale = ""] = /^Key: (\d{1,2}) ([^(]+?) \(/.exec(text) ?? [];
  return Number(root) <= 11 && isScale(scale) ? { root: Number(root), scale } : null;
}

/** The exact level of a track, since volumes are coarse and end at +4 dB; null where a text says none. */
export function readLevelText(text: string): Decibels | null {
  const found = /^Level: (-?\d+(?:\.\d+)?)$/.exec(text);
  if (!found) return null;
  const level = Number(found[1]);
  return level >= LIMITS.level.min && level <= LIMITS.level.max ? level : null;
}

/** Channels (from 0) beside its own that notes of a track are on. */
export const channelsText = (channels: readonly number[]): string =>
  `Also on channels: ${channels.map((channel) => channel + 1).join(", ")}`;

/** The channels beside its own that a track's notes are on, from 0; none where a text says none. */
export function readChannelsText(text: string): number[] {
  const found = /^Also on channels: (\d{1,2}(?:, \d{1,2}){0,15})$/.exec(text);
  const numbers = found?.[1]?.split(", ").map(Number) ?? [];
  return numbers.filter((number) => number >= 1 && number <= 16).map((number) => number - 1);
}
