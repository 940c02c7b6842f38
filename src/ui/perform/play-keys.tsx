"use client";
import type { PointerEvent } from "react";
import { degreeLabel, inKey, pitchClassName, pitchName } from "@/core/pitch";
import { trackOf } from "@/core/score";
import { type KeyLayout, type KeyPlace, keyPlaces } from "@/core/perform";
import { onKit } from "../commands/perform/entry";
import { keyDown, keyUp, pitchAt } from "../commands/perform/keys";
import { Piano } from "../controls/piano";
import { fingerOf, touchVelocity } from "../controls/touch";
import { useDesk, useSession } from "../session/context";
import { useSetting, settings } from "../person/settings";
import { useChordNow, useDown } from "./use-played";

/** What plays by pointer and fingers, as the player knows it. */
const SCREEN = "screen";

/** The letter of a place on the keyboard. */
export const letterOf = (code: string): string =>
  ({ Semicolon: ";", Quote: "'" })[code] ?? code.replace(/^(Key|Digit)/, "");

/** The keys on the screen, in the layout of the keyboard's: pressed by pointer or by fingers, lit from anywhere. */
export function PlayKeys() {
  const kit = useSession(onKit);
  const playing = useSession((state) => state.entry?.mode === "play");
  const layout = useSetting("layout");
  const how = playing ? layout : kit ? "pads" : "piano";
  if (kit || how === "pads")
    return <Pads sixteen={how === "pads" && playing} layout={playing ? layout : "piano"} />;
  return how === "scale rows" ? <ScaleRows /> : <Keys wide={how === "two-row piano"} />;
}

function Keys({ wide }: { wide: boolean }) {
  const desk = useDesk();
  const key = useSession((state) => state.project.key);
  const low = useSession((state) => state.entry?.low ?? 48);
  const playing = useSession((state) => state.entry?.mode === "play");
  const down = useDown();
  const chord = useChordNow();
  const places = keyPlaces(wide ? "two-row piano" : "piano");
  const caption = (pitch: number) => {
    const place = places[pitch - low];
    return playing && place
      ? letterOf(place.code)
      : pitch % 12 === 0
        ? pitchClassName(key, pitch)
        : "";
  };
  return (
    <Piano
      low={low}
      octaves={wide ? 3 : 2}
      height={wide ? 52 : 40}
      down={down}
      tinted={chord.classes}
      mark={(pitch) => (inKey(key, pitch) ? (pitch % 12 === key.root ? "root" : "in") : null)}
      caption={caption}
      onDown={(touched, velocity, finger, time) => {
        const { layout } = settings();
        const pitch = pitchAt(desk.store.getState(), { row: 0, column: 0, index: touched - low });
        // Elsewhere than on a piano the key is what it shows.
        const sounds = layout.endsWith("piano") ? (pitch ?? touched) : touched;
        keyDown(desk, SCREEN, fingerOf(finger), { pitch: sounds, velocity, time });
      }}
      onUp={(finger, time) => keyUp(desk, SCREEN, fingerOf(finger), time)}
    />
  );
}

/** What a button that is a key does: down, up, lost, and by the enter key. */
function useKeyHandlers(place: Pick<KeyPlace, "row" | "column" | "index">) {
  const desk = useDesk();
  const pitchNow = () => pitchAt(desk.store.getState(), place);
  const lift = (event: PointerEvent<Element>) =>
    keyUp(desk, SCREEN, fingerOf(event.pointerId), event.timeStamp);
  return {
    onPointerDown: (event: PointerEvent<Element>) => {
      const pitch = pitchNow();
      if (pitch === null) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      const velocity = touchVelocity(event);
      keyDown(desk, SCREEN, fingerOf(event.pointerId), { pitch, velocity, time: event.timeStamp });
    },
    onPointerUp: lift,
    onPointerCancel: lift,
    onLostPointerCapture: lift,
    onKeyDown: (event: React.KeyboardEvent) => {
      const pitch = pitchNow();
      if (event.key !== "Enter" || event.repeat || pitch === null) return;
      event.preventDefault();
      event.stopPropagation();
      keyDown(desk, SCREEN, `enter ${place.index}`, { pitch, velocity: 96, time: event.timeStamp });
    },
    onKeyUp: (event: React.KeyboardEvent) => {
      if (event.key === "Enter") keyUp(desk, SCREEN, `enter ${place.index}`, event.timeStamp);
    },
    onBlur: () => keyUp(desk, SCREEN, `enter ${place.index}`, performance.now()),
  };
}

/** Sixteen pads, the first at the lower left; or all lanes of the kit, with the keys that they have. */
function Pads({ sixteen, layout }: { sixteen: boolean; layout: KeyLayout }) {
  const kit = useSession(onKit);
  const lanes = useSession((state) => trackOf(state.project, state.track).lanes);
  const down = useDown();
  const places = keyPlaces("pads");
  const all: readonly Pick<KeyPlace, "row" | "column" | "index" | "code">[] = sixteen
    ? [3, 2, 1, 0].flatMap((row) => places.filter((place) => place.row === row))
    : lanes.map((_, index) => ({
        row: 0,
        column: 0,
        index,
        code: keyPlaces(layout)[index]?.code ?? "",
      }));
  return (
    <div
      className="grid max-h-[132px] grid-cols-4 gap-1 overflow-y-auto"
      role="group"
      aria-label="Pads"
    >
      {all.map((place) => (
        <Pad
          key={place.index}
          place={place}
          name={kit ? (lanes[place.index]?.name ?? "") : null}
          down={down}
        />
      ))}
    </div>
  );
}

function Pad({
  place,
  name,
  down,
}: {
  place: Pick<KeyPlace, "row" | "column" | "index" | "code">;
  /** Name of the lane; null where the pad is a degree of the scale. */
  name: string | null;
  down: ReadonlySet<number>;
}) {
  const handlers = useKeyHandlers(place);
  const key = useSession((state) => state.project.key);
  const pitch = useSession((state) => pitchAt(state, place));
  const lit = pitch !== null && down.has(pitch);
  const shown = name ?? (pitch === null ? "" : pitchName(pitch, key));
  return (
    <button
      className={`flex h-[29px] touch-none items-center justify-between gap-1 truncate rounded-full border px-2.5 text-[12px] select-none ${
        lit
          ? "border-primary bg-primary text-primary-content"
          : pitch === null
            ? "border-dashed border-base-300 opacity-50"
            : "border-base-300 hover:border-base-content"
      }`}
      disabled={pitch === null}
      aria-hidden={pitch === null || undefined}
      data-pitch={pitch ?? undefined}
      data-lit={lit || undefined}
      {...handlers}
    >
      <span className="truncate">{shown}</span>
      <span className={`figure text-[12px] ${lit ? "" : "quiet"}`}>{letterOf(place.code)}</span>
    </button>
  );
}

/** Rows of the scale: neighbours are neighbouring degrees, each row a fixed step above the one below. */
function ScaleRows() {
  const down = useDown();
  const chord = useChordNow();
  const places = keyPlaces("scale rows");
  return (
    <div className="flex flex-col gap-1" role="group" aria-label="Rows of the scale">
      {[3, 2, 1, 0].map((row) => (
        <div key={row} className="flex gap-1" style={{ paddingLeft: (3 - row) * 9 }}>
          {places
            .filter((place) => place.row === row)
            .map((place) => (
              <Degree key={place.code} place={place} down={down} tones={chord.classes} />
            ))}
        </div>
      ))}
    </div>
  );
}

function Degree({
  place,
  down,
  tones,
}: {
  place: KeyPlace;
  down: ReadonlySet<number>;
  tones: ReadonlySet<number>;
}) {
  const handlers = useKeyHandlers(place);
  const key = useSession((state) => state.project.key);
  const pitch = useSession((state) => pitchAt(state, place));
  if (pitch === null) return <span className="w-[34px]" />;
  const lit = down.has(pitch);
  const root = pitch % 12 === key.root;
  const tone = tones.has(pitch % 12);
  return (
    <button
      className={`relative flex h-[29px] w-[34px] touch-none flex-col items-center justify-center rounded-full border leading-none select-none ${
        lit
          ? "border-primary bg-primary text-primary-content"
          : tone
            ? "border-primary bg-primary/20"
            : "border-base-300 hover:border-base-content"
      } ${root ? "border-[2.5px] border-base-content" : ""}`}
      aria-label={pitchName(pitch, key)}
      title={`${pitchName(pitch, key)}, key ${letterOf(place.code)}`}
      data-pitch={pitch}
      data-lit={lit || undefined}
      data-tone={tone || undefined}
      {...handlers}
    >
      <span className="text-[12px] font-medium">{pitchClassName(key, pitch)}</span>
      <span className={`figure text-[12px] ${lit || tone ? "" : "quiet"}`}>
        {degreeLabel(key, pitch) || letterOf(place.code)}
      </span>
    </button>
  );
}
