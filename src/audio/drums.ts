import { Sounding, panned, velocityGain, type Instrument, type Trigger } from "./instrument";
import { padFor, type Kit } from "./kits/kit";

/**
 * Plays a kit: each pad is rendered once for the sample rate of the context, then every hit is one
 * buffer source, so that many hits cost little and each starts exactly on its sample.
 */
export function drums(context: BaseAudioContext, output: AudioNode, kit: Kit): Instrument {
  const buffers = new Map<number, AudioBuffer>();
  for (const [slot, pad] of Object.entries(kit.pads)) {
    const samples = pad(context.sampleRate);
    const buffer = context.createBuffer(1, samples.length, context.sampleRate);
    buffer.copyToChannel(samples, 0);
    buffers.set(Number(slot), buffer);
  }
  const sounding = new Sounding();
  const lastOf = new Map<readonly number[], { gain: GainNode; pad: number }>();

  const choke = (pad: number, time: number, gain: GainNode) => {
    const group = kit.chokes.find((g) => g.includes(pad));
    if (!group) return;
    const last = lastOf.get(group);
    if (last) last.gain.gain.setTargetAtTime(0, time, 0.004);
    lastOf.set(group, { gain, pad });
  };

  return {
    trigger(note: Trigger) {
      const pad = padFor(kit, note.pitch);
      const source = context.createBufferSource();
      source.buffer = buffers.get(pad)!;
      source.playbackRate.value = 2 ** (note.tune / 12);
      const gain = context.createGain();
      gain.gain.value = velocityGain(note.velocity);
      choke(pad, note.time, gain);
      source.connect(gain);
      panned(context, gain, output, note.pan);
      source.start(note.time);
      sounding.add(gain, [source]);
    },
    silence: () => sounding.silence(context),
  };
}
