import type { Bpm, Ticks } from "../../base";
import type { Metre } from "../../time";
import type { Key } from "../../pitch";
import { LIMITS } from "../../score";
import type { SmfEvent, SmfFile } from "./events";
import type { Losses } from "../import/losses";
import type { Changes } from "../import/song";
import { readKeyText } from "./own";

/** What holds for the whole of a project. */
export interface SmfHead {
  /** Tempos and metres that begin later, in ticks of the file, in order. */
  changes: Changes;
  name: string;
  tempo: Bpm;
  metre: Metre;
  key: Key;
}

/** Where a file names no tempo, metre or key: what the standard says (SMF 1.0, “Set Tempo”). */
const PLAIN = {
  tempo: 120 as Bpm,
  metre: { beats: 4, unit: 4 },
  key: { root: 0, scale: "major" },
};

/**
 * Name, tempo, metre and key of a file: those in force when its first note begins (`from`, in ticks of
 * the file), and the tempos and metres after. Other keys are counted as changes that are not kept.
 */
export function readHead(file: SmfFile, from: Ticks, lost: Losses): SmfHead {
  const [first] = file.tracks;
  // In a file of one voice track per chunk the first chunk's name is a track's, not the piece's.
  const isVoice = file.format === 1 && (first?.voices.begun ?? 0) > 0;
  const name = isVoice
    ? undefined
    : first?.events.find((e) => e.type === "name" && e.channel === undefined);
  const all = file.tracks.flatMap(({ events }) => events.filter(isHead));
  let named: Key | null = null;
  for (const event of all) if (event.type === "text") named ??= readKeyText(event.text);
  const tempos = inForce(all, "tempo", readTempo, PLAIN.tempo, from, lost);
  const metres = inForce(all, "metre", readMetre, PLAIN.metre, from, lost);
  const keys = inForce(all, "key", readKey, PLAIN.key, from, lost);
  lost.add("key change", "", keys.changes);
  return {
    name: name?.type === "name" ? name.text : "",
    tempo: tempos.value,
    metre: metres.value,
    key: named ?? keys.value,
    changes: { tempos: tempos.later, metres: metres.later },
  };
}

/** What of a file says something of the whole: few among its notes. */
const isHead = ({ type }: SmfEvent): boolean =>
  type === "tempo" || type === "metre" || type === "key" || type === "text";

function inForce<T>(
  events: readonly SmfEvent[],
  type: "tempo" | "metre" | "key",
  read: (event: SmfEvent) => T | null,
  plain: T,
  from: Ticks,
  lost: Losses,
): { value: T; later: readonly { tick: Ticks; value: T }[]; changes: number } {
  const found: { tick: Ticks; value: T }[] = [];
  for (const event of events) {
    if (event.type !== type) continue;
    const value = read(event);
    if (value === null) lost.add(`${type} event`, "out of range");
    else found.push({ tick: event.tick, value });
  }
  found.sort((a, b) => a.tick - b.tick);
  const chosen = found.findLast(({ tick }) => tick <= from)?.value ?? plain;
  const others = found.filter(
    ({ value }) => value !== chosen && JSON.stringify(value) !== JSON.stringify(chosen),
  );
  const early = others.filter(({ tick }) => tick <= from).length;
  if (type !== "key") lost.add(`${type} change`, "before the first note", early);
  return {
    value: chosen,
    later: found.filter(({ tick }) => tick > from),
    changes: others.length,
  };
}

function readTempo(event: SmfEvent): Bpm | null {
  if (event.type !== "tempo") return null;
  // Microseconds are whole, so 84 BPM comes back as 84.00003: rounded where they cannot tell.
  const rounded = Math.round((60_000_000 / event.usPerQuarter) * 100) / 100;
  return rounded >= LIMITS.tempo.min && rounded <= LIMITS.tempo.max ? rounded : null;
}

function readMetre(event: SmfEvent): Metre | null {
  if (event.type !== "metre") return null;
  const { beats, unit } = event;
  return beats >= 1 && beats <= 32 && [2, 4, 8, 16].includes(unit) ? { beats, unit } : null;
}

function readKey(event: SmfEvent): Key | null {
  if (event.type !== "key" || Math.abs(event.fifths) > 7) return null;
  const major = (((event.fifths * 7) % 12) + 12) % 12;
  return event.minor ? { root: (major + 9) % 12, scale: "minor" } : { root: major, scale: "major" };
}
