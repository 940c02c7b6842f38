import { expect, it } from "vitest";
import { parseJsonText } from "./parse-json";

it("makes halves of pairs what UTF-8 makes of them, and leaves whole pairs alone", () => {
  const value = {
    "half\ud800": ["\udc00", "a\ud83d", "\ud83d\ude00 whole", "\\ud800 as it is written"],
    __proto__x: { deep: "\ude00\ud83d" },
  };
  const text = JSON.stringify(value);
  const read = parseJsonText(text);
  expect(read).toEqual(JSON.parse(new TextDecoder().decode(new TextEncoder().encode(fair(value)))));
  expect(read).toMatchObject({
    "half\ufffd": ["\ufffd", "a\ufffd", "\ud83d\ude00 whole", "\\ud800 as it is written"],
  });
  expect(() => parseJsonText('{"\\ud800"')).toThrow(SyntaxError);
});

/** JSON with its texts as they are, not escaped: halves are left to UTF-8. */
const fair = (value: unknown): string =>
  JSON.stringify(value).replace(/(?<!\\)\\u(d[89a-f]..)/g, (_, hex: string) =>
    String.fromCharCode(parseInt(hex, 16)),
  );
