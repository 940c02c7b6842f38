import { keepsKey } from "../controls/keeps-key";
import { useEffect } from "react";
import { tinykeys } from "tinykeys";
import { useDesk } from "../session/context";
import { ACTIONS } from "./registry";

/** Runs the actions of the registry by their keys while a project is open. */
export function useKeys(): void {
  const desk = useDesk();
  useEffect(() => {
    const bindings = Object.fromEntries(
      ACTIONS.flatMap((action) =>
        action.keys.map((key) => [
          key,
          (event: KeyboardEvent) => {
            if (event.defaultPrevented || keepsKey(event)) return;
            event.preventDefault();
            action.run(desk);
          },
        ]),
      ),
    );
    return tinykeys(window, bindings);
  }, [desk]);
}
