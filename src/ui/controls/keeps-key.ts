/** Elements that use keys themselves. A button only keeps space and enter, and only when reached by key. */
export function keepsKey(event: KeyboardEvent): boolean {
  const element = event.target instanceof HTMLElement ? event.target : null;
  if (!element) return false;
  // In a menu letters find a command; in the palette they are typed.
  if (element.closest("[data-palette], [role=menu]")) return true;
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
