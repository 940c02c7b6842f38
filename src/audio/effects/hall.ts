import type { HallValues } from "../synth/reverb-sound";
import { lineLengths } from "../synth/feedback-delays";
import { burst, fallen, type RoomSound } from "./burst";

/**
 * What a room is made of: a short burst, what the nearest walls give back, and eight delay lines that fall by 60 dB
 * in its decay. Every room is as loud as any other.
 */
export function hallOf(sound: RoomSound): HallValues {
  const { decay, size, rate } = sound;
  const [left, right] = burst(sound);
  const lengths = lineLengths(size, rate);
  const falls = lengths.map((length) => fallen(length / rate, decay));
  // What comes out of a side, as power: its lines' over the time they take to fall.
  const kept = falls.reduce((all, fall) => all + fall ** 2, 0) / falls.length;
  const level = Math.sqrt((1 - kept) / kept / falls.length) * 1.4;
  return { left, right, lengths, falls, level };
}
