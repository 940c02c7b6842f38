import type { Random } from "@/core/base";

/** Values that often go wrong somewhere. */
const STRANGE: readonly unknown[] = [
  null,
  "",
  "constructor",
  "toString",
  "__proto__",
  "hasOwnProperty",
  "\ud800",
  "a\u0000b",
  "x".repeat(10_000),
  "../../etc",
  "%00%ff",
  -1,
  0,
  0.5,
  -0,
  127,
  128,
  1e9,
  1e308,
  2 ** 53,
  true,
  false,
  [],
  {},
  [[]],
  [null],
  Array.from({ length: 300 }, () => ({})),
];

const pick = <T>(list: readonly T[], random: Random): T =>
  list[Math.floor(random() * list.length)]!;

/** A copy of JSON with one thing in it changed: left out, doubled, replaced, deepened, renamed. */
export function mutated(value: unknown, random: Random): unknown {
  const copy = structuredClone(value);
  if (typeof copy !== "object" || copy === null || random() < 0.02) return pick(STRANGE, random);
  let at = copy as Record<string, unknown>;
  for (;;) {
    const keys = Object.keys(at);
    if (keys.length === 0) return copy;
    const key = pick(keys, random);
    const inside = at[key];
    if (typeof inside === "object" && inside !== null && random() < 0.8) {
      at = inside as Record<string, unknown>;
      continue;
    }
    change(at, key, random);
    return copy;
  }
}

function change(at: Record<string, unknown>, key: string, random: Random): void {
  const kind = Math.floor(random() * 7);
  const held = at[key];
  if (kind === 0) {
    if (Array.isArray(at)) at.splice(Number(key), 1);
    else delete at[key];
  } else if (kind <= 2 && Array.isArray(at))
    at.push(kind === 1 ? structuredClone(held) : pick(STRANGE, random));
  else if (kind === 2) at[String(pick(STRANGE, random)).slice(0, 40)] = held;
  else if (kind === 3) {
    let deep: unknown = held;
    for (let i = Math.floor(random() * 200); i > 0; i--)
      deep = random() < 0.5 ? [deep] : { a: deep };
    at[key] = deep;
  } else if (kind === 4 && typeof held === "number")
    at[key] = held * 10 ** Math.floor(random() * 12);
  else if (kind === 5 && typeof held === "string") at[key] = `${held}${pick(STRANGE, random)}`;
  else at[key] = pick(STRANGE, random);
}

/** A copy of bytes with some of them changed, cut, doubled or put in. */
export function mutatedBytes(bytes: Uint8Array, random: Random): Uint8Array<ArrayBuffer> {
  const at = () => Math.floor(random() * (bytes.length + 1));
  const kind = random();
  if (kind < 0.15) return bytes.slice(0, at());
  if (kind < 0.3) {
    const [a, b] = [at(), at()].sort((x, y) => x - y) as [number, number];
    return Uint8Array.of(...bytes.slice(0, b), ...bytes.slice(a));
  }
  const copy = bytes.slice();
  for (let n = 1 + Math.floor(random() * 8); n > 0 && copy.length > 0; n--) {
    copy[Math.floor(random() * copy.length)] = pick(
      [0, 1, 0x22, 0x5b, 0x7b, 0x7f, 0x80, 0xff],
      random,
    );
  }
  return copy;
}
