import { useEffect } from "react";
import { tinykeys } from "tinykeys";
import { useDesk } from "../session/context";
import { ACTIONS, type Desk } from "./actions";

export type { Desk };

/** Elements that use keys themselves. A button only keeps space and enter, and only when reached by key. */
export function keepsKey(event: KeyboardEvent): boolean {
  const element = event.target instanceof HTMLElement ? event.target : null;
  if (!element) return false;
  if (element.closest("[data-palette]")) return true;
  const { key } = event;
  if (element instanceof HTMLInputElement) {
    if (element.type === "range") return /^(Arrow|Page|Home|End)/.test(key);
    if (element.type === "checkbox") return key === " ";
    return !(event.ctrlKey || event.metaKey) || /^[azyxcv]$/i.test(key);
  }
  if (element.matches("select, textarea, [contenteditable]")) return true;
  if (element.matches("button, a, [role=tab], [role=radio], summary")) {
    const plain = (key === " " || key === "Enter") && !event.shiftKey;
    return plain && element.matches(":focus-visible");
  }
  return false;
}

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
