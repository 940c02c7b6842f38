import { expose } from "comlink";
import type { Metre } from "@/core/time";
import {
  type Listened,
  beatOf,
  drumHits,
  listenTo,
  mixedDown,
  onsetsOf,
  pitchLine,
  slicesOf,
} from "@/core/listen";
import { waveFile } from "@/core/formats";

let channels: Float32Array<ArrayBuffer>[] = [];
let listened: Listened | null = null;

const here = (): Listened => {
  if (!listened) throw new Error("Nothing was listened to yet");
  return listened;
};

/** Listening to one recording, away from the page. */
const ear = {
  /** Takes a recording in and listens to it. */
  open(sound: Float32Array<ArrayBuffer>[], rate: number): void {
    channels = sound;
    listened = listenTo(mixedDown(sound), rate);
  },
  /** Its onsets at a sensitivity. */
  onsets: (sensitivity: number) => onsetsOf(here(), sensitivity).map(({ time }) => time),
  /** What was hit at each of these times, and the tempo that gives. */
  hits(times: readonly number[], metre: Metre) {
    const { bands, length } = here();
    const hits = drumHits(bands, times);
    return { hits, beat: beatOf(hits, length, metre) };
  },
  /** The notes of a single line. */
  line: () => pitchLine(here().samples, here().rate),
  /** A WAV file of each piece between these times. */
  slices(times: readonly number[]) {
    const { samples, rate } = here();
    return slicesOf(samples, rate, times).map(({ from, to }) => ({
      time: from / rate,
      bytes: waveFile(
        channels.map((channel) => channel.subarray(from, to)),
        rate,
      ),
    }));
  },
};
export type Ear = typeof ear;

expose(ear);
