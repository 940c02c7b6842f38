/** An escape that may be half of a pair. */
const SURROGATE = /\\u[dD][89a-fA-F]/;

/**
 * Parses JSON text. Half of a surrogate pair, which a text can hold here but not in a file, becomes the
 * replacement character (U+FFFD), as UTF-8 writes it: what is answered is what is kept.
 * Throws a SyntaxError where it is no JSON.
 */
export function parseJsonText(text: string): unknown {
  return SURROGATE.test(text) ? JSON.parse(text, wellFormed) : JSON.parse(text);
}

function wellFormed(_: string, value: unknown): unknown {
  if (typeof value === "string") return value.toWellFormed();
  if (typeof value !== "object" || value === null || Array.isArray(value)) return value;
  const entries = Object.entries(value);
  if (entries.every(([key]) => key.isWellFormed())) return value;
  return Object.fromEntries(entries.map(([key, held]) => [key.toWellFormed(), held]));
}
