"use client";
import { useDeferredValue, useMemo, useState } from "react";
import {
  FAMILIES,
  type Family,
  type SketchedOn,
  TRANSFORMS,
  contextOf,
  sketchOf,
  transformOf,
} from "@/core/transforms";
import { partOf, patternOf, trackOf } from "@/core/score";
import { scoreOf } from "../../controls/find";
import { startingParams } from "../../commands/tracks/chain";
import type { Scope } from "../../commands/tracks/scopes";
import { setSettings, settings, useSetting } from "../../person/settings";
import { useDesk, useSession } from "../../session/context";
import { Sketch } from "./sketch";

const FAMILY_LABELS: Readonly<Record<Family, string>> = {
  rhythm: "Rhythm",
  feel: "Feel",
  chords: "Chords",
  line: "Line",
};

/** How many of those used lately are offered first. */
const LATELY = 4;

/** What is typed for a transform beside its name and what it does. */
const words = (id: string): string[] =>
  transformOf(id)
    .about.toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

interface Props {
  scope: Scope;
  onChoose(transform: string): void;
}

/** All transforms as tiles, by family, each with a picture of what it does; found by typing. */
export function TransformTiles({ scope, onChoose }: Props) {
  const [search, setSearch] = useState("");
  const lately = useSetting("lateTransforms").filter((id) => id in TRANSFORMS);
  const sketches = useSketches(scope);
  const choose = (id: string) => {
    const before = settings().lateTransforms.filter((other) => other !== id);
    setSettings({ lateTransforms: [id, ...before].slice(0, LATELY) });
    setSearch("");
    onChoose(id);
  };
  const fits = (id: string) => {
    const { label, family } = transformOf(id);
    return scoreOf({ label, group: FAMILY_LABELS[family], words: words(id) }, search);
  };
  const found = Object.keys(TRANSFORMS).filter((id) => fits(id) > 0);
  const best = [...found].sort((a, b) => fits(b) - fits(a))[0];
  return (
    <div className="flex flex-col gap-1.5">
      <input
        type="search"
        className="input input-sm h-7 w-full"
        placeholder="Find a transform"
        aria-label="Find a transform"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && search && best) choose(best);
          if (event.key === "Escape" && search) {
            event.preventDefault();
            event.stopPropagation();
            setSearch("");
          }
        }}
      />
      {!search && lately.length > 0 && (
        <div role="group" aria-label="Used lately" className="flex flex-wrap gap-1">
          {lately.map((id) => (
            <button
              key={id}
              className="rounded-full border border-base-300 px-2 py-0.5 text-[12px] hover:border-base-content"
              title={transformOf(id).about}
              onClick={() => choose(id)}
            >
              <span className="sr-only">Used lately: </span>
              {transformOf(id).label}
            </button>
          ))}
        </div>
      )}
      <div aria-label="Transforms" role="group" className="flex flex-col gap-1.5">
        {FAMILIES.map((family) => {
          const ids = found.filter((id) => transformOf(id).family === family);
          return (
            ids.length > 0 && (
              <section key={family} aria-label={FAMILY_LABELS[family]}>
                <h3 className="quiet mb-0.5 text-[12px] leading-4">{FAMILY_LABELS[family]}</h3>
                <ul className="grid grid-cols-2 gap-1">
                  {ids.map((id) => (
                    <li key={id} className="flex">
                      <button
                        className={`flex h-[30px] w-full min-w-0 items-center gap-1.5 rounded-lg border bg-base-200/60 px-1 text-left hover:border-primary ${
                          search && id === best ? "border-primary" : "border-base-300"
                        }`}
                        aria-label={transformOf(id).label}
                        title={transformOf(id).about}
                        onClick={() => choose(id)}
                      >
                        <span className="text-primary">
                          <Sketch of={sketches[id]!} />
                        </span>
                        <span className="min-w-0 flex-1 text-[12px] leading-[1.1]">
                          {transformOf(id).label}
                        </span>
                      </button>
                    </li>
                  ))}
                </ul>
              </section>
            )
          );
        })}
        {found.length === 0 && <p className="quiet text-[12px]">No transform is called that</p>}
      </div>
    </div>
  );
}

/** What each transform makes of the selected notes of the first part they lie in; of its example where there are none. */
function useSketches(scope: Scope) {
  const { store } = useDesk();
  const project = useSession((state) => state.project);
  // The sheet itself comes first: what is in little may be a moment late.
  const drawn = useDeferredValue(project);
  const ids = scope.kind === "selection" ? scope.ids?.[0] : undefined;
  const [at] = scope.places;
  const key = useDeferredValue(ids?.join(" ") ?? "");
  return useMemo(() => {
    const on = (): Omit<SketchedOn, "params"> | null => {
      const pattern = drawn.patterns.find(({ id }) => id === at?.pattern);
      if (key === "" || !at || !pattern || !drawn.tracks.some(({ id }) => id === at.track))
        return null;
      const chosen = new Set(key.split(" "));
      const part = partOf(drawn, at);
      const notes = part.notes.filter((note) => chosen.has(note.id));
      const context = contextOf(
        drawn,
        trackOf(drawn, at.track),
        part,
        patternOf(drawn, at.pattern),
      );
      return notes.length > 0 ? { notes, context } : null;
    };
    const own = on();
    return Object.fromEntries(
      Object.keys(TRANSFORMS).map((id) => [
        id,
        sketchOf(id, own && { ...own, params: startingParams(store.getState(), id) }),
      ]),
    );
  }, [drawn, key, at, store]);
}
