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
import { RenderedPad } from "./pads/rendered-pad";
import type { SoundParts } from "./sound-parts";
import type { HitCommand, PadSound } from "./synth/hits";
import type { Port } from "./worklet/port";
import type { Clock } from "./clock";

/** One pad: its shape, its sound, and what of it sounds. */
interface Pad {
  shape: PadShape;
  rendered: RenderedPad;
  /** What the audio thread has of its sound. */
  requested: PadSound | null;
  /** Hits that may still sound, oldest first. */
  live: Struck[];
  /** What of its hits goes to the room, as it was sent last. */
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
  const pads = new Map<number, Pad>();
  const lastOf = new Map<number, Struck>();
  let kit = kitOf("");
  let ownPads = new Set<number>();
  let level = 1;
  let count = 0;

  const made = (shape: PadShape): Pad => ({
    shape,
    rendered: new RenderedPad(render),
    requested: null,
    live: [],
    sends: "0,0",
  });

  const end = ({ id }: Struck, at: Seconds, tau: number) => {
    port.send({ type: "end", id, at, tau });
  };

  /** Says what of a pad goes to the room, where that is another than before. */
  const send = (pad: Pad) => {
    const { pitch } = pad.shape;
    const gains = { reverb: 0, echo: 0 };
    for (const to of SENDS) gains[to] = levelGain(pad.shape[to] ?? SEND_OFF);
    const key = Object.values(gains).join();
    if (pad.sends === key) return;
    pad.sends = key;
    for (const to of SENDS) if (gains[to] > 0) sends(to);
    port.send({ type: "sends", pad: pitch, gains });
  };

  const update = (track: Track) => {
    const shape = track.kit ?? PLAIN_KIT;
    kit = kitOf(track.sound);
    ownPads = new Set(shape.pads.filter((pad) => pad.sample).map((pad) => pad.pitch));
    const gain = gainOf(shape.level);
    if (gain !== level) port.send({ type: "kit", gain });
    level = gain;
    for (const pitch of new Set([...Object.keys(kit.pads).map(Number), ...ownPads])) {
      const padShape = padShapeOf(shape, pitch);
      const pad = pads.get(pitch) ?? made(padShape);
      pads.set(pitch, pad);
      pad.shape = padShape;
      send(pad);
      pad.rendered.want({ kit: kit.id, pad: padShape, whole: shape, rate: clock.sampleRate });
    }
  };

  const hit = (note: Strike, how: "played" | "held") => {
    const pitch = ownPads.has(note.pitch) ? note.pitch : padFor(kit, note.pitch);
    const pad = pads.get(pitch);
    const sound = pad?.rendered.sound;
    if (!pad || !sound) return;
    const { shape } = pad;
    if (pad.requested !== sound) {
      pad.requested = sound;
      port.send({ type: "sound", pad: pitch, channels: sound });
    }
    const struck = { id: ++count, time: note.time };
    const gain = velocityGain(note.velocity) * gainOf(shape.level);
    const speed = 2 ** (note.tune / 12);
    const pan = placeOf(note.pan + shape.pan);
    port.send({ type: "hit", ...struck, pad: pitch, speed, gain, pan, held: how === "held" });
    if (shape.choke > 0) {
      const last = lastOf.get(shape.choke);
      // By hand a hit may come before one that is handed over already: that one chokes it.
      if (last && last.time > note.time) end(struck, last.time, CHOKE);
      else {
        if (last) end(last, note.time, CHOKE);
        lastOf.set(shape.choke, struck);
      }
    }
    pad.live.push(struck);
    const oldest = pad.live.length > MAX_HITS && pad.live.shift();
    if (oldest) end(oldest, note.time, LET_GO);
  };

  return {
    update,
    ready: async () => {
      await Promise.all([port.ready(), ...[...pads.values()].map((pad) => pad.rendered.ready())]);
    },
    noteOn: (note) => hit(note, "played"),
    hold: (note) => {
      hit(note, "held");
      return RINGS_OUT;
    },
    silence: ({ spareHeld = false } = {}) => {
      port.send({ type: "silence", at: clock.currentTime, spareHeld });
    },
  };
}
