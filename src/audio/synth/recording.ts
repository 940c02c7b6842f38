/**
 * Reads samples `[from, to)` of a block from a place of a recording on, straight between its samples where it is not
 * read at its own speed from a whole one. Gives how many there were: fewer where it ends.
 */
// Six: an object made for each voice in each block would be litter on the audio thread.
// eslint-disable-next-line no-restricted-syntax
export function readRecording(
  recording: Float32Array,
  out: Float32Array,
  from: number,
  to: number,
  place: number,
  speed: number,
): number {
  const whole = speed === 1 && Number.isInteger(place);
  const rest = Math.ceil((recording.length - place - (whole ? 0 : 1)) / speed);
  const count = Math.max(0, Math.min(to - from, rest));
  if (whole) {
    out.set(recording.subarray(place, place + count), from);
    return count;
  }
  for (let i = from, at = place; i < from + count; i++, at += speed) {
    const k = Math.floor(at);
    const x = recording[k]!;
    out[i] = x + (recording[k + 1]! - x) * (at - k);
  }
  return count;
}
