import {
  type Mix,
  PLAIN_MIX,
  PLAIN_SEND_EFFECTS,
  PLAIN_SOUND,
  type SendEffects,
  type Shaping,
  changed,
  unducked,
} from "../sound";
import { type Project, changeTrackOf } from "../score";

/** Changes how the sound of a melodic track is shaped; what is plain again is forgotten. */
export function shapeSound(project: Project, track: string, change: Shaping): Project {
  return changeTrackOf(project, track, ({ shaping, ...rest }) => {
    const after = rest.kind === "melody" && changed(shaping, PLAIN_SOUND, change);
    return after ? { ...rest, shaping: after } : rest;
  });
}

/** Shapes the sound of a melodic track so, and not otherwise. */
export function setShaping(project: Project, track: string, shaping: Shaping): Project {
  return shapeSound(project, track, { ...PLAIN_SOUND, ...shaping });
}

/** Changes what a track goes through and where to; what is plain again is forgotten. */
export function changeMix(project: Project, track: string, change: Mix): Project {
  return changeTrackOf(project, track, ({ mix, ...rest }) => {
    const after = changed(mix, PLAIN_MIX, change);
    // Depth and release of what nothing ducks say nothing.
    const left = after && (after.duckBy ? after : unducked(after));
    return left ? { ...rest, mix: left } : rest;
  });
}

/** Changes reverb, echo or level of the whole; what is plain again is forgotten. */
export function changeRoom(project: Project, change: SendEffects): Project {
  const { room, ...rest } = project;
  const after = changed(room, PLAIN_SEND_EFFECTS, change);
  return after ? { ...rest, room: after } : rest;
}
