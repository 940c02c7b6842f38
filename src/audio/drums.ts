import { type Pan, type Seconds, clamp } from "@/core/base";
import { SENDS, SEND_OFF } from "@/core/sound";
import { PLAIN_KIT, type PadShape, type Track, padShapeOf } from "@/core/score";
import {
  gainOf,
  levelGain,
  velocityGain,
  type HeldNote,
  type Instrument,
  type Strike,
} from "./instrument";
import { padFor } from "./kits/kit";
import { kitOf } from "./kits/registry";
import { jobKey, type PadJob } from "./pads/render";
import type { SoundParts } from "./sound-parts";
import type { HitCommand, PadSound } from "./synth/hits";
import type { Port } from "./worklet/port";
import type { Clock } from "./clock";

/** A pad's sound as it is now, and what it is becoming. */
interface PadVoice {
  shape: PadShape;
  sound: PadSound | null;
  /** What the audio thread has of it. */
  requested: PadSound | null;
  wanted: string;
  next: PadJob | null;
  /** What could not be rendered last, to be tried again. */
  failed: PadJob | null;
  busy: Promise<void> | null;
  /** Hits that may still sound, oldest first. */
  live: Struck[];
  /** What of its hits goes to the room, as it was said last. */
  sends: string;
}

interface Struck {
  id: number;
  time: Seconds;
}

/**
 * Hits of one pad that sound at once. In a roll the older ones lie under the newer: they are let go,
 * or the ringing of fast rolls would take more of the machine than it has.
 */
const MAX_HITS = 8;
/** Time constant in seconds with which the oldest hit is let go. */
const LET_GO = 0.012;

/** Time constant of a choke in seconds: after 20 ms the sound is 58 dB down. */
const CHOKE = 0.003;

/** A hit is not held: it ends by itself. */
const RINGS_OUT: HeldNote = { release: () => undefined };

/** Places in the stereo picture are so many on either side. */
const PLACES = 64;
const placeOf = (pan: Pan): Pan => Math.round(clamp(pan, -1, 1) * PLACES) / PLACES;

/**
 * Plays a kit: each pad is rendered once for its shape, then every hit plays that, so that many hits cost
 * little and each starts exactly on its sample. While a pad, or a whole other kit, is being rendered, the
 * old sound goes on playing.
 */
export function drums(
  clock: Clock,
  { port, render, sends }: Pick<SoundParts, "render" | "sends"> & { port: Port<HitCommand> },
): Instrument {
  const voices = new Map<number, PadVoice>();
  const lastOf = new Map<number, Struck>();
  let kit = kitOf("");
  let ownPads = new Set<number>();
  let level = 1;
  let made = 0;

  const work = async (voice: PadVoice): Promise<void> => {
    while (voice.next) {
      const job = voice.next;
      voice.next = null;
      try {
        voice.sound = await render(job);
        voice.failed = null;
      } catch {
        // The renderer has said so. The old sound stays, the rest plays, and the next start tries again.
        voice.failed = job;
      }
    }
    voice.busy = null;
  };

  const end = ({ id }: Struck, at: Seconds, tau: number) => {
    port.send({ type: "end", id, at, tau });
  };

  /** Says what of a pad goes to the room, where that is another than before. */
  const send = (voice: PadVoice) => {
    const { pitch: pad } = voice.shape;
    const gains = { reverb: 0, echo: 0 };
    for (const to of SENDS) gains[to] = levelGain(voice.shape[to] ?? SEND_OFF);
    const key = Object.values(gains).join();
    if (voice.sends === key) return;
    voice.sends = key;
    for (const to of SENDS) if (gains[to] > 0) sends(to);
    port.send({ type: "sends", pad, gains });
  };

  const update = (track: Track) => {
    const shape = track.kit ?? PLAIN_KIT;
    kit = kitOf(track.sound);
    ownPads = new Set(shape.pads.filter((pad) => pad.sample).map((pad) => pad.pitch));
    const gain = gainOf(shape.level);
    if (gain !== level) port.send({ type: "kit", gain });
    level = gain;
    for (const pitch of new Set([...Object.keys(kit.pads).map(Number), ...ownPads])) {
      const pad = padShapeOf(shape, pitch);
      const job = { kit: kit.id, pad, whole: shape, rate: clock.sampleRate };
      const wanted = jobKey(job);
      let voice = voices.get(pitch);
      if (!voice)
        voices.set(
          pitch,
          (voice = {
            shape: pad,
            sound: null,
            requested: null,
            wanted: "",
            next: null,
            failed: null,
            busy: null,
            live: [],
            sends: "0,0",
          }),
        );
      voice.shape = pad;
      send(voice);
      if (voice.wanted === wanted) continue;
      voice.wanted = wanted;
      // Only the newest of several wishes is rendered: a slider moves faster than sound is made.
      voice.failed = null;
      voice.next = job;
      voice.busy ??= work(voice);
    }
  };

  const hit = (note: Strike, held: boolean) => {
    const pad = ownPads.has(note.pitch) ? note.pitch : padFor(kit, note.pitch);
    const voice = voices.get(pad);
    if (!voice?.sound) return;
    const { shape, sound } = voice;
    if (voice.requested !== sound) {
      voice.requested = sound;
      port.send({ type: "sound", pad, channels: sound });
    }
    const struck = { id: ++made, time: note.time };
    const gain = velocityGain(note.velocity) * gainOf(shape.level);
    const speed = 2 ** (note.tune / 12);
    const pan = placeOf(note.pan + shape.pan);
    port.send({ type: "hit", ...struck, pad, speed, gain, pan, held });
    if (shape.choke > 0) {
      const last = lastOf.get(shape.choke);
      // By hand a hit may come before one that is handed over already: that one chokes it.
      if (last && last.time > note.time) end(struck, last.time, CHOKE);
      else {
        if (last) end(last, note.time, CHOKE);
        lastOf.set(shape.choke, struck);
      }
    }
    voice.live.push(struck);
    if (voice.live.length > MAX_HITS) end(voice.live.shift()!, note.time, LET_GO);
  };

  return {
    update,
    ready: async () => {
      for (const voice of voices.values()) {
        if (!voice.failed || voice.busy) continue;
        voice.next = voice.failed;
        voice.busy = work(voice);
      }
      await Promise.all([port.ready(), ...[...voices.values()].map((voice) => voice.busy)]);
    },
    noteOn: (note) => hit(note, false),
    hold: (note) => {
      hit(note, true);
      return RINGS_OUT;
    },
    silence: (spareHeld = false) => {
      port.send({ type: "silence", at: clock.currentTime, spareHeld });
    },
  };
}
