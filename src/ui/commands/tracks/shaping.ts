import * as edits from "@/core/edits";
import type { MidiPitch } from "@/core/base";
import { SOUND_CONTROLS, type Shaping, type SoundControl } from "@/core/sound";
import { KIT_RANGES, type PadShape } from "@/core/score";
import type { SessionStore } from "../../state/store";

/** Changes how a pad of a kit sounds. With `field` a run of changes of that field is one step of undo. */
export function shapePad(
  store: SessionStore,
  { track, pitch }: { track: string; pitch: MidiPitch },
  change: Partial<PadShape>,
  { label, field }: { label: string; field?: string },
): void {
  store.getState().edit(label, (project) => edits.changePad(project, track, pitch, change), {
    group: field && `pad-${track}-${pitch}-${field}`,
  });
}

/** Changes level, pitch or time of a whole kit. */
export function shapeKit(
  store: SessionStore,
  track: string,
  field: keyof typeof KIT_RANGES,
  value: number,
): void {
  store
    .getState()
    .edit(
      `Kit ${KIT_RANGES[field].label.toLowerCase()}`,
      (project) => edits.changeKit(project, track, { [field]: value }),
      { group: `kit-${track}-${field}` },
    );
}

/** Changes one control of a melodic sound. */
export function shapeSound(
  store: SessionStore,
  track: string,
  control: SoundControl,
  value: number,
): void {
  store
    .getState()
    .edit(
      SOUND_CONTROLS[control].label,
      (project) => edits.shapeSound(project, track, { [control]: value }),
      {
        group: `shape-${track}-${control}`,
      },
    );
}

/** Gives a melodic sound a shape kept under a name, whole. */
export function takeShaping(
  store: SessionStore,
  track: string,
  shaping: Shaping,
  { sound, name }: { sound: string; name: string },
): void {
  store
    .getState()
    .edit(`${sound}: ${name}`, (project) => edits.setShaping(project, track, shaping), {
      message: name,
    });
}
