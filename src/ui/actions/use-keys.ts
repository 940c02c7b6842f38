import { keepsKey, watchPresses } from "../controls/keeps-key";
import { useEffect } from "react";
import { tinykeys } from "tinykeys";
import { keysOf } from "../person/keys";
import { type KeySense, type Press, listensFor } from "../person/presses";
import { useSetting } from "../person/settings";
import { useDesk } from "../session/context";
import { ACTIONS } from "./registry";

/** On a Mac alt writes another sign with every key: such a press is known by its place alone. */
const senseOf = (press: Press, sense: KeySense): KeySense =>
  /Mac/.test(navigator.platform) && press.includes("Alt+") ? "place" : sense;

/** Runs the actions of the registry by their keys while a project is open. */
export function useKeys(): void {
  const desk = useDesk();
  const own = useSetting("keys");
  const sense = useSetting("keySense");
  useEffect(watchPresses, []);
  useEffect(() => {
    // A choice made by pointer is done: the keys are the sheet's again.
    const onChange = (event: Event) => {
      if (!(event.target instanceof HTMLSelectElement)) return;
      // One that asks something before it is done has the keyboard itself.
      if (!event.target.closest("[role=dialog], [data-asks]")) {
        desk.store.getState().request("sheet");
      }
    };
    window.addEventListener("change", onChange);
    return () => window.removeEventListener("change", onChange);
  }, [desk]);
  useEffect(() => {
    const bindings = new Map<string, (event: KeyboardEvent) => void>();
    // What is meant for a press itself goes before what another keyboard may write with it.
    const wanted = ACTIONS.flatMap((action) =>
      keysOf(action.id).flatMap((press) =>
        listensFor(press, senseOf(press, sense)).map((heard, rank) => ({ action, heard, rank })),
      ),
    ).sort((a, b) => a.rank - b.rank);
    for (const { action, heard } of wanted)
      if (!bindings.has(heard))
        bindings.set(heard, (event) => {
          if (event.defaultPrevented || keepsKey(event)) return;
          event.preventDefault();
          if (!(action.once && event.repeat)) action.run(desk);
        });
    return tinykeys(window, Object.fromEntries(bindings));
  }, [desk, own, sense]);
}
