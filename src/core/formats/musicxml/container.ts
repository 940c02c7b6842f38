import { FormatError } from "../container/bytes";
import { isZip, unzipped, zipEntries, zipOf } from "../container/zip";
import { child, parseXml } from "./tree";

const CONTAINER = "META-INF/container.xml";
const SCORE = "score.musicxml";
const TYPE = "application/vnd.recordare.musicxml";

const LIMITS = { files: 200, bytes: 64 * 1024 * 1024 };

/** A score as a compressed file (MusicXML 4.0, “Compressed .mxl files”): its type, its container, and itself. */
export function compressed(text: string): Uint8Array {
  const utf8 = (value: string) => new TextEncoder().encode(value);
  const container = `<?xml version="1.0" encoding="UTF-8"?>
<container><rootfiles><rootfile full-path="${SCORE}" media-type="${TYPE}+xml"/></rootfiles></container>
`;
  return zipOf(
    { mimetype: utf8(TYPE), [CONTAINER]: utf8(container), [SCORE]: utf8(text) },
    (name) => name === "mimetype",
  );
}

/** Text of bytes: UTF-8, or UTF-16 where they begin as that. */
function decoded(bytes: Uint8Array): string {
  const [a, b] = bytes;
  if (a === 0xfe && b === 0xff) return new TextDecoder("utf-16be").decode(bytes);
  if (a === 0xff && b === 0xfe) return new TextDecoder("utf-16le").decode(bytes);
  return new TextDecoder().decode(bytes);
}

/** So much of a file is looked at to tell what it is. */
const HEAD = 4000;

/**
 * The XML of a score, plain or compressed; null where bytes are none. To look, only the beginning is read.
 * Throws a `FormatError` for a compressed file that cannot be read.
 */
export function musicXmlText(bytes: Uint8Array, how: "look" | "read"): string | null {
  if (!isZip(bytes)) {
    const head = decoded(bytes.subarray(0, HEAD));
    const score =
      /^\s*<(\?xml|!DOCTYPE|!--|score-)/.test(head) && /<(!DOCTYPE\s+)?score-|<\?xml/.test(head);
    return score ? (how === "look" ? head : decoded(bytes)) : null;
  }
  let names: string[];
  try {
    names = zipEntries(bytes).map(({ name }) => name);
  } catch {
    return null;
  }
  if (!names.includes(CONTAINER)) return null;
  if (how === "look") return "";
  const files = unzipped(bytes, LIMITS);
  const container = parseXml(decoded(files[CONTAINER]!));
  const path = child(child(container, "rootfiles"), "rootfile")?.attributes["full-path"];
  const score = path === undefined ? undefined : files[path];
  if (!score)
    throw new FormatError(`The compressed score names no file of its own (${path ?? "none"})`);
  return decoded(score);
}
