import { parseJsonText } from "@/core/formats";
import { ApiError } from "./errors";

/** Nothing that is sent here goes deeper, has more fields in one object, or more lists and objects. */
const MAX = { depth: 100, fields: 5000, containers: 4_000_000 } as const;

/** Parses JSON that was sent; throws an ApiError 400 where it is none, or of a shape nothing here has. */
export function parseJson(bytes: Uint8Array): unknown {
  refuseVast(bytes);
  try {
    return parseJsonText(new TextDecoder("utf-8", { fatal: true }).decode(bytes));
  } catch {
    throw new ApiError(400, "The request holds no valid JSON");
  }
}

/**
 * Throws an ApiError 400 for JSON that is nested deeper, or holds more fields in one object or more lists
 * and objects than anything here: parsing such costs many times its size. Looks at the bytes alone.
 */
export function refuseVast(bytes: Uint8Array): void {
  const fields = new Uint32Array(MAX.depth + 2);
  let depth = 0;
  let containers = 0;
  for (let i = 0; i < bytes.length; i++) {
    switch (bytes[i]) {
      case 0x22: // A text: on to its end.
        for (i++; i < bytes.length && bytes[i] !== 0x22; i++) if (bytes[i] === 0x5c) i++;
        break;
      case 0x5b:
      case 0x7b:
        if (++depth > MAX.depth) throw vast(`is nested deeper than ${MAX.depth}`);
        if (++containers > MAX.containers) throw vast("holds too many lists and objects");
        fields[depth] = 0;
        break;
      case 0x5d:
      case 0x7d:
        if (depth > 0) depth--;
        break;
      case 0x3a:
        if (++fields[depth]! > MAX.fields)
          throw vast(`has an object of more than ${MAX.fields} fields`);
    }
  }
}

const vast = (what: string) => new ApiError(400, `What was sent ${what}`);
