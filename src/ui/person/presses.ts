/**
 * A press of keys in words: modifiers in the order `$mod` (ctrl, on a Mac cmd), `Alt`, `Shift`, then
 * the key, with `+` between: `$mod+Shift+z`, `Alt+Digit1`, `[`. Letters and signs are told as the key
 * writes them, others by their name (`ArrowLeft`, `Space`).
 */
export type Press = string;

/** Whether a key is known by the sign that is on it, or by where it lies. */
export const KEY_SENSES = ["sign", "place"] as const;
export type KeySense = (typeof KEY_SENSES)[number];

const MODS = ["$mod", "Alt", "Shift"] as const;
const PRESS = /^(?:(?:\$mod|Alt|Shift)\+){0,3}(?:\S|[A-Za-z][A-Za-z0-9]{1,20})$/;

/** Whether a text tells a press. */
export const isPress = (text: string): text is Press => PRESS.test(text);

/** Keys that lie where these signs lie on a keyboard of the United States (W3C, UI Events code values). */
const PLACES: Readonly<Record<string, string>> = {
  "[": "BracketLeft",
  "]": "BracketRight",
  "/": "Slash",
  "?": "Shift+Slash",
  ".": "Period",
  ",": "Comma",
  "-": "Minus",
  "=": "Equal",
  "+": "Shift+Equal",
  ";": "Semicolon",
  "'": "Quote",
  "\\": "Backslash",
};

function parts(press: Press): { mods: string[]; key: string } {
  const found = press.split(/\b\+/);
  const key = found[found.length - 1] ?? "";
  return { mods: MODS.filter((mod) => found.slice(0, -1).includes(mod)), key };
}

const together = (mods: readonly string[], key: string): Press => [...mods, key].join("+");

const isLetter = (key: string) => /^[a-z]$/i.test(key);
const isDigit = (key: string) => /^(?:Digit)?\d$/.test(key);
const isSign = (key: string) => key.length === 1 && !isLetter(key) && !isDigit(key);

/** The same text for presses that are the same: `Shift+D` and `Shift+d`. */
export function plainPress(press: Press): Press {
  const { mods, key } = parts(press);
  // On most keyboards some signs need shift, on others not: a sign is what it is.
  const own = isSign(key) ? mods.filter((mod) => mod !== "Shift") : mods;
  return together(own, key.replace(/^Digit/, "").toLowerCase());
}

/** What is listened for, for one press: in the notation of the package that listens. */
export function listensFor(press: Press, sense: KeySense): string[] {
  const { mods, key } = parts(press);
  if (isLetter(key) && sense === "place") return [together(mods, `Key${key.toUpperCase()}`)];
  if (isDigit(key)) {
    const digit = key.replace(/^Digit/, "");
    return [together(mods, sense === "place" || mods.length > 0 ? `Digit${digit}` : digit)];
  }
  if (!isSign(key)) return [press];
  const place = PLACES[key];
  if (sense === "place" && place !== undefined) {
    const { mods: more, key: code } = parts(place);
    return [together([...new Set([...mods, ...more])], code)];
  }
  // The sign may lie on shift or on the third level of a keyboard.
  const plain = mods.filter((mod) => mod !== "Shift");
  const third = mods.includes("Alt") ? [] : [together(["AltGraph", ...plain], key)];
  return [together(plain, key), together([...plain, "Shift"], key), ...third];
}

type Pressed = Pick<
  KeyboardEvent,
  "key" | "code" | "ctrlKey" | "metaKey" | "altKey" | "shiftKey"
> & {
  getModifierState?(name: string): boolean;
};

const ALONE = new Set(["Shift", "Control", "Alt", "Meta", "AltGraph", "CapsLock", "Dead", "Tab"]);
const SIGN_AT = new Map(
  Object.entries(PLACES)
    .filter(([, code]) => !code.startsWith("Shift"))
    .map(([sign, code]) => [code, sign]),
);

/** The press that a keyboard event is; null for a modifier by itself, and where no key is told. */
export function pressOf(event: Pressed, sense: KeySense): Press | null {
  if (ALONE.has(event.key) || event.key === "" || event.key === "Unidentified") return null;
  const third = event.getModifierState?.("AltGraph") ?? false;
  const sign = sense === "place" ? (SIGN_AT.get(event.code) ?? event.key) : event.key;
  const letter = /^Key([A-Z])$/.exec(event.code)?.[1];
  const digit = /^Digit(\d)$/.exec(event.code)?.[1];
  // With alt or shift a key writes something else: it is told by its place then.
  const key =
    event.key === " "
      ? "Space"
      : letter && (sense === "place" || (event.altKey && !isLetter(event.key)))
        ? letter.toLowerCase()
        : digit && (sense === "place" || event.altKey || event.shiftKey) && !third
          ? `Digit${digit}`
          : isLetter(sign)
            ? sign.toLowerCase()
            : sign;
  const down = {
    $mod: (event.ctrlKey || event.metaKey) && !third,
    Alt: event.altKey && !third,
    Shift: event.shiftKey && !isSign(key),
  };
  const press = together(
    MODS.filter((mod) => down[mod]),
    key,
  );
  return isPress(press) ? press : null;
}

const SHOWN: Readonly<Record<string, string>> = {
  $mod: "ctrl",
  ArrowLeft: "←",
  ArrowRight: "→",
  ArrowUp: "↑",
  ArrowDown: "↓",
  Delete: "del",
  Escape: "esc",
  PageUp: "page up",
  PageDown: "page down",
  "-": "−",
  Backquote: "`",
  Semicolon: ";",
};

/** A press as people read it: `ctrl shift ←`. */
export function shownPress(press: Press): string {
  const { mods, key } = parts(press);
  const plain = key.replace(/^Digit/, "");
  const shown =
    SHOWN[plain] ??
    (plain.length === 1 ? plain.toUpperCase() : /^F\d/.test(plain) ? plain : plain.toLowerCase());
  return [...mods.map((mod) => SHOWN[mod] ?? mod.toLowerCase()), shown].join(" ");
}
