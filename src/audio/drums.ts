import { PLAIN_KIT, padShapeOf, type PadShape, type Track } from "@/core";
import { Sounding, panned, velocityGain, type Instrument, type Trigger } from "./instrument";
import { padFor } from "./kits/kit";
import { kitOf } from "./kits/registry";
import { jobKey, type PadJob, type PadRenderer } from "./pads/render";

/** A pad's sound as it is now, and what it is becoming. */
interface PadVoice {
  shape: PadShape;
  buffer: AudioBuffer | null;
  wanted: string;
  next: PadJob | null;
  busy: Promise<void> | null;
}

/** Time constant of a choke in seconds: after 20 ms the sound is 58 dB down. */
const CHOKE = 0.003;

const gainOf = (db: number) => 10 ** (db / 20);

/**
 * Plays a kit: each pad is rendered once for its shape, then every hit is one buffer source, so that
 * many hits cost little and each starts exactly on its sample. While a pad, or a whole other kit, is
 * being rendered, the old sound goes on playing.
 */
export function drums(
  context: BaseAudioContext,
  output: AudioNode,
  render: PadRenderer,
): Instrument {
  const level = context.createGain();
  level.connect(output);
  const voices = new Map<number, PadVoice>();
  const sounding = new Sounding();
  const lastOf = new Map<number, { gain: GainNode; source: AudioBufferSourceNode }>();
  let kit = kitOf("");
  let ownPads = new Set<number>();

  const work = async (voice: PadVoice): Promise<void> => {
    while (voice.next) {
      const job = voice.next;
      voice.next = null;
      const channels = await render(job);
      const buffer = context.createBuffer(channels.length, channels[0]!.length, job.rate);
      channels.forEach((channel, i) => buffer.copyToChannel(channel, i));
      voice.buffer = buffer;
    }
    voice.busy = null;
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
          (voice = { shape: pad, buffer: null, wanted: "", next: null, busy: null }),
        );
      voice.shape = pad;
      if (voice.wanted === wanted) continue;
      voice.wanted = wanted;
      // Only the newest of several wishes is rendered: a slider moves faster than sound is made.
      voice.next = job;
      voice.busy ??= work(voice);
    }
  };

  return {
    update,
    ready: async () => {
      await Promise.all([...voices.values()].map((voice) => voice.busy));
    },
    trigger(note: Trigger) {
      const voice = voices.get(ownPads.has(note.pitch) ? note.pitch : padFor(kit, note.pitch));
      if (!voice?.buffer) return;
      const { shape } = voice;
      const source = context.createBufferSource();
      source.buffer = voice.buffer;
      source.playbackRate.value = 2 ** (note.tune / 12);
      const gain = context.createGain();
      gain.gain.value = velocityGain(note.velocity) * gainOf(shape.level);
      if (shape.choke > 0) {
        const last = lastOf.get(shape.choke);
        last?.gain.gain.setTargetAtTime(0, note.time, CHOKE);
        last?.source.stop(note.time + 10 * CHOKE);
        lastOf.set(shape.choke, { gain, source });
      }
      source.connect(gain);
      panned(context, gain, level, Math.min(1, Math.max(-1, note.pan + shape.pan)));
      source.start(note.time);
      sounding.add(gain, [source]);
    },
    silence: () => sounding.silence(context),
  };
}
