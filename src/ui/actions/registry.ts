import { tellKeys } from "../person/keys";
import type { Action } from "./action";
import { CARET } from "./lists/caret";
import { EDIT } from "./lists/edit";
import { FILE } from "./lists/file";
import { GRID } from "./lists/grid";
import { HELP } from "./lists/help";
import { HISTORY } from "./lists/history";
import { LINE } from "./lists/line";
import { PATTERN } from "./lists/pattern";
import { PLAY } from "./lists/play";
import { PLAY_IN } from "./lists/play-in";
import { SELECT } from "./lists/select";
import { SONG } from "./lists/song";
import { TRACK } from "./lists/track";
import { TRANSFORM } from "./lists/transform";
import { VIEW } from "./lists/view";

/** Everything that can be done, in the order of the palette. A line of a list adds one. */
export const ACTIONS: readonly Action[] = [
  ...PLAY,
  ...HISTORY,
  ...EDIT,
  ...SELECT,
  ...CARET,
  ...TRANSFORM,
  ...GRID,
  ...LINE,
  ...PLAY_IN,
  ...TRACK,
  ...PATTERN,
  ...SONG,
  ...VIEW,
  ...FILE,
  ...HELP,
];

// Panels say the keys of what they offer; they know no actions.
tellKeys(ACTIONS);
