/** The control that the pointer pressed last and that has had the keyboard since. */
let pressed: Element | null = null;

/** Notices what is pressed by pointer and what is reached by key. Gives a way to stop. */
export function watchPresses(): () => void {
  const onPointer = (event: PointerEvent) => {
    const { target } = event;
    pressed = target instanceof Element ? target.closest("button, a, select, input, label") : null;
  };
  // What is reached with the tab key is meant to be used by key.
  const onKey = (event: KeyboardEvent) => {
    if (event.key === "Tab") pressed = null;
  };
  window.addEventListener("pointerdown", onPointer, { capture: true });
  window.addEventListener("keydown", onKey, { capture: true });
  return () => {
    window.removeEventListener("pointerdown", onPointer, { capture: true });
    window.removeEventListener("keydown", onKey, { capture: true });
  };
}

/** Elements that use a key themselves. A button only keeps space and enter, and only when reached by key. */
export function keepsKey(event: KeyboardEvent): boolean {
  const element = event.target instanceof HTMLElement ? event.target : null;
  if (!element) return false;
  // In a menu letters find a command; in the palette they are typed.
  if (element.closest("[data-palette], [role=menu]")) return true;
  const { key } = event;
  if (element instanceof HTMLInputElement) {
    if (element.type === "range") return /^(Arrow|Page|Home|End)/.test(key);
    if (element.type === "checkbox") return key === " " && element !== pressed;
    return !(event.ctrlKey || event.metaKey) || /^[azyxcv]$/i.test(key);
  }
  if (element.matches("select, textarea, [contenteditable]")) return true;
  if (element.matches("button, a, [role=tab], [role=radio], summary")) {
    if (/^Arrow/.test(key) && element.matches("[role=tab], [role=radio]"))
      return element !== pressed;
    const plain = (key === " " || key === "Enter") && !event.shiftKey;
    // Inside something that opened, enter presses what it stands on, however that came about.
    return plain && (element !== pressed || element.closest("[role=dialog]") !== null);
  }
  return false;
}
