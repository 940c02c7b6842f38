import { keepsKey, watchPresses } from "../controls/keeps-key";
import { useEffect } from "react";
import { tinykeys } from "tinykeys";
import { useDesk } from "../session/context";
import { ACTIONS } from "./registry";

/** Runs the actions of the registry by their keys while a project is open. */
export function useKeys(): void {
  const desk = useDesk();
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
    const bindings = Object.fromEntries(
      ACTIONS.flatMap((action) =>
        action.keys.map((key) => [
          key,
          (event: KeyboardEvent) => {
            if (event.defaultPrevented || keepsKey(event)) return;
            event.preventDefault();
            if (!(action.once && event.repeat)) action.run(desk);
          },
        ]),
      ),
    );
    return tinykeys(window, bindings);
  }, [desk]);
}
