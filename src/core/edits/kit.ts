import type { MidiPitch } from "../base";
import { SEND_OFF } from "../sound";
import {
  type KitShape,
  PLAIN_KIT,
  type PadShape,
  type Project,
  type Track,
  changeTrackOf,
  padShapeOf,
  plainPad,
} from "../score";
import { same } from "../stored";

function changeKitOf(
  project: Project,
  track: string,
  change: (kit: KitShape) => KitShape,
): Project {
  const reshape = (track: Track): Track => {
    const { kit, ...rest } = track;
    const after = change(kit ?? PLAIN_KIT);
    // A kit with nothing changed is left out, so that plain projects stay plain.
    return same(after, PLAIN_KIT) ? rest : { ...rest, kit: after };
  };
  return changeTrackOf(project, track, (track) =>
    track.kind === "drums" ? reshape(track) : track,
  );
}

/** A pad without what says nothing: sends that are off, no other kit, itself. */
function tidy(pad: PadShape): PadShape {
  const { from, variant, reverb = SEND_OFF, echo = SEND_OFF, ...rest } = pad;
  return {
    ...rest,
    ...(from && { from }),
    ...(variant && { variant }),
    ...(reverb > SEND_OFF && { reverb }),
    ...(echo > SEND_OFF && { echo }),
  };
}

/** Gives a drum track a kit and the shape of its pads, whole. */
export function setKit(project: Project, track: string, sound: string, kit: KitShape): Project {
  return changeTrackOf(
    changeKitOf(project, track, () => kit),
    track,
    (track) => (track.kind === "drums" ? { ...track, sound } : track),
  );
}

/** Changes level, pitch or time of a whole kit. */
export function changeKit(
  project: Project,
  track: string,
  change: Partial<Omit<KitShape, "pads">>,
): Project {
  return changeKitOf(project, track, (kit) => ({ ...kit, ...change }));
}

/** Changes how one pad of a kit is shaped; a pad back at its plain shape is forgotten. */
export function changePad(
  project: Project,
  track: string,
  pitch: MidiPitch,
  change: Partial<Omit<PadShape, "pitch">>,
): Project {
  return changeKitOf(project, track, (kit) => {
    const after = tidy({ ...padShapeOf(kit, pitch), ...change });
    const others = kit.pads.filter((pad) => pad.pitch !== pitch);
    const pads = same(after, plainPad(pitch)) ? others : [...others, after];
    return { ...kit, pads: pads.sort((a, b) => a.pitch - b.pitch) };
  });
}
