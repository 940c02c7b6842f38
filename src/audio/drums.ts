import {
  PLAIN_KIT,
  SENDS,
  padShapeOf,
  type PadShape,
  type Pan,
  type Seconds,
  type Track,
} from "@/core";
import { gainOf, velocityGain, type HeldNote, type Instrument, type Strike } from "./instrument";
import { padFor } from "./kits/kit";
import { kitOf } from "./kits/registry";
import { jobKey, type PadJob } from "./pads/render";
import { Sends } from "./sends";
import type { SoundParts } from "./sound-parts";

/** A pad's sound as it is now, and what it is becoming. */
interface PadVoice {
  shape: PadShape;
  buffer: AudioBuffer | null;
  wanted: string;
  next: PadJob | null;
  /** What could not be rendered last, to be tried again. */
  failed: PadJob | null;
  busy: Promise<void> | null;
  /** Hits that may still sound, oldest first. */
  live: Hit[];
  /** What of its hits goes to the room. */
  sends: Sends;
}

interface Hit {
  time: Seconds;
  gain: GainNode;
  source: AudioBufferSourceNode;
}

/**
 * Hits of one pad that sound at once. In a roll the older ones lie under the newer: they are let go,
 * or the ringing of fast rolls would take more of the machine than it has.
 */
const MOST_HITS = 8;
/** Time constant in seconds with which the oldest hit is let go. */
const LET_GO = 0.012;

/** Time constant of a choke in seconds: after 20 ms the sound is 58 dB down. */
const CHOKE = 0.003;

/** A hit is not held: it ends by itself. */
const RINGS_OUT: HeldNote = { release: () => undefined };

/**
 * Plays a kit: each pad is rendered once for its shape, then every hit is one buffer source, so that
 * many hits cost little and each starts exactly on its sample. While a pad, or a whole other kit, is
 * being rendered, the old sound goes on playing.
 */
export function drums(
  context: BaseAudioContext,
  output: AudioNode,
  { render, send }: Pick<SoundParts, "render" | "send">,
): Instrument {
  const level = context.createGain();
  level.connect(output);
  const voices = new Map<number, PadVoice>();
  const sounding = new Sounding();
  const lastOf = new Map<number, Hit>();
  const buses = new Map<number, AudioNode>();
  let kit = kitOf("");
  let ownPads = new Set<number>();

  const work = async (voice: PadVoice): Promise<void> => {
    while (voice.next) {
      const job = voice.next;
      voice.next = null;
      try {
        const channels = await render(job);
        const buffer = context.createBuffer(channels.length, channels[0]!.length, job.rate);
        channels.forEach((channel, i) => buffer.copyToChannel(channel, i));
        voice.buffer = buffer;
        voice.failed = null;
      } catch {
        // The renderer has said so. The old sound stays, the rest plays, and the next start tries again.
        voice.failed = job;
      }
    }
    voice.busy = null;
  };

  /** Hits of one place in the stereo picture share one panner. */
  const busFor = (pan: Pan): AudioNode => {
    const place = Math.round(Math.min(1, Math.max(-1, pan)) * 64) / 64;
    if (place === 0) return level;
    let bus = buses.get(place);
    if (!bus) {
      const panner = context.createStereoPanner();
      panner.pan.value = place;
      panner.connect(level);
      buses.set(place, (bus = panner));
    }
    return bus;
  };

  const end = ({ gain, source }: Hit, time: Seconds, tau: number) => {
    gain.gain.setTargetAtTime(0, time, tau);
    source.stop(time + 10 * tau);
  };

  const update = (track: Track) => {
    const shape = track.kit ?? PLAIN_KIT;
    kit = kitOf(track.sound);
    ownPads = new Set(shape.pads.filter((pad) => pad.sample).map((pad) => pad.pitch));
    level.gain.value = gainOf(shape.level);
    for (const pitch of new Set([...Object.keys(kit.pads).map(Number), ...ownPads])) {
      const pad = padShapeOf(shape, pitch);
      const job = { kit: kit.id, pad, whole: shape, rate: context.sampleRate };
      const wanted = jobKey(job);
      let voice = voices.get(pitch);
      if (!voice)
        voices.set(
          pitch,
          (voice = {
            shape: pad,
            buffer: null,
            wanted: "",
            next: null,
            failed: null,
            busy: null,
            live: [],
            sends: new Sends(context, send),
          }),
        );
      voice.shape = pad;
      for (const to of SENDS) voice.sends.set(to, pad[to]);
      if (voice.wanted === wanted) continue;
      voice.wanted = wanted;
      // Only the newest of several wishes is rendered: a slider moves faster than sound is made.
      voice.failed = null;
      voice.next = job;
      voice.busy ??= work(voice);
    }
  };

  const hit = (note: Strike, held: boolean) => {
    const voice = voices.get(ownPads.has(note.pitch) ? note.pitch : padFor(kit, note.pitch));
    if (!voice?.buffer) return;
    const { shape } = voice;
    const source = context.createBufferSource();
    source.buffer = voice.buffer;
    source.playbackRate.value = 2 ** (note.tune / 12);
    const gain = context.createGain();
    gain.gain.value = velocityGain(note.velocity) * gainOf(shape.level);
    source.start(note.time);
    const struck = { time: note.time, gain, source };
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
    if (voice.live.length > MOST_HITS) end(voice.live.shift()!, note.time, LET_GO);
    source.connect(gain);
    gain.connect(busFor(note.pan + shape.pan));
    for (const to of voice.sends.gains) gain.connect(to);
    sounding.add(struck, held);
  };

  return {
    update,
    ready: async () => {
      for (const voice of voices.values()) {
        if (!voice.failed || voice.busy) continue;
        voice.next = voice.failed;
        voice.busy = work(voice);
      }
      await Promise.all([...voices.values()].map((voice) => voice.busy));
    },
    trigger: (note) => hit(note, false),
    hold: (note) => {
      hit(note, true);
      return RINGS_OUT;
    },
    silence: (spareHeld) => sounding.silence(context, spareHeld),
  };
}

/** Hits that are asked for or sounding, so that stopping can reach them. */
class Sounding {
  private readonly live = new Map<Hit, boolean>();

  /** `held` says that a hand struck it. */
  add(hit: Hit, held: boolean): void {
    const { gain, source } = hit;
    this.live.set(hit, held);
    source.onended = () => {
      this.live.delete(hit);
      source.disconnect();
      gain.disconnect();
    };
  }

  silence(context: BaseAudioContext, spareHeld = false): void {
    const now = context.currentTime;
    for (const [{ gain, source }, held] of this.live) {
      if (held && spareHeld) continue;
      gain.gain.cancelScheduledValues(now);
      gain.gain.setTargetAtTime(0, now, 0.004);
      source.stop(now + 0.03);
    }
  }
}
