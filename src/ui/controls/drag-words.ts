import type { Announcements, ScreenReaderInstructions } from "@dnd-kit/core";

/**
 * What a screen reader is told while something is dragged, in names and not in ids: `nameOf` what is dragged or lies
 * below, null for what has none.
 */
export function dragWords(nameOf: (id: string) => string | null): {
  announcements: Announcements;
  screenReaderInstructions: ScreenReaderInstructions;
} {
  const name = (id: string | number) => nameOf(String(id)) ?? "It";
  const place = (over: { id: string | number } | null) => {
    const found = over && nameOf(String(over.id));
    return found ? ` at ${found}` : "";
  };
  return {
    announcements: {
      onDragStart: ({ active }) => `${name(active.id)} taken`,
      onDragOver: ({ active, over }) => (over ? `${name(active.id)}${place(over)}` : undefined),
      onDragEnd: ({ active, over }) => `${name(active.id)} put down${place(over)}`,
      onDragCancel: ({ active }) => `${name(active.id)} put back`,
    },
    screenReaderInstructions: { draggable: "Press space to take it, arrow keys to move it" },
  };
}
