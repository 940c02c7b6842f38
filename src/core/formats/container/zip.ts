import { Inflate, zipSync, type Zippable } from "fflate";
import { FormatError } from "./bytes";
import { mapTuple } from "../../base";

/** A file of a zip: its name with slashes, and what it holds. */
export type ZipFiles = Record<string, Uint8Array>;

/** What is read of a zip, at most. */
export interface ZipLimits {
  files: number;
  /** Bytes of all files together, unpacked. */
  bytes: number;
}

const LOCAL = 0x04034b50;
const CENTRAL = 0x02014b50;
const END = 0x06054b50;
/** A comment at a zip's end is no longer than this. */
const LONGEST_COMMENT = 0xffff;

interface Entry {
  name: string;
  /** Where its own head begins. */
  at: number;
  packed: number;
  size: number;
  /** 0 as it is, 8 deflated. */
  method: number;
  encrypted: boolean;
}

/** Whether bytes begin as a zip does. */
export const isZip = (bytes: Uint8Array): boolean =>
  bytes.length > 30 && new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true) === LOCAL;

/**
 * What a zip says it holds. Throws a `FormatError` where its list is missing or broken. Source: APPNOTE.TXT, .ZIP
 * File Format Specification, 4.3.12 and 4.3.16.
 */
export function zipEntries(bytes: Uint8Array): Entry[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let end = bytes.length - 22;
  const least = Math.max(0, end - LONGEST_COMMENT);
  while (end >= least && view.getUint32(end, true) !== END) end--;
  if (end < least || end < 0) throw new FormatError("The zip breaks off before its list of files");
  const count = view.getUint16(end + 10, true);
  const entries: Entry[] = [];
  for (let i = 0, at = view.getUint32(end + 16, true); i < count; i++) {
    if (at + 46 > end || view.getUint32(at, true) !== CENTRAL)
      throw new FormatError(`The zip's list of files is broken at byte ${at}`);
    const [name, extra, comment] = mapTuple([28, 30, 32], (offset) =>
      view.getUint16(at + offset, true),
    );
    if (at + 46 + name > end)
      throw new FormatError(`The zip's list of files is broken at byte ${at}`);
    entries.push({
      name: new TextDecoder().decode(bytes.subarray(at + 46, at + 46 + name)),
      at: view.getUint32(at + 42, true),
      packed: view.getUint32(at + 20, true),
      size: view.getUint32(at + 24, true),
      method: view.getUint16(at + 10, true),
      encrypted: (view.getUint16(at + 8, true) & 1) !== 0,
    });
    at += 46 + name + extra + comment;
  }
  return entries;
}

/** A name that leads out of where a zip is unpacked, or nowhere. */
const ASTRAY = /^[/\\]|^[a-z]:|\\|\0|(^|\/)\.\.?(\/|$)|^$/i;

/**
 * The files of a zip. Throws a `FormatError`, before anything is unpacked, for one of more or larger files than
 * the limits, whatever it says of them, and for names that lead astray.
 */
export function unzipped(bytes: Uint8Array, limits: ZipLimits): ZipFiles {
  const entries = zipEntries(bytes).filter(({ name }) => !name.endsWith("/"));
  if (entries.length > limits.files)
    throw new FormatError(
      `The zip holds ${entries.length} files; at most ${limits.files} are read`,
    );
  let sum = 0;
  for (const { name, size, method, encrypted } of entries) {
    const shown = `“${name.slice(0, 80)}”`;
    if (ASTRAY.test(name))
      throw new FormatError(`The zip has a file of the name ${shown}, which leads out of it`);
    if (encrypted) throw new FormatError(`${shown} in the zip is encrypted`);
    if (method !== 0 && method !== 8)
      throw new FormatError(`${shown} in the zip is packed by method ${method}; 0 and 8 are read`);
    sum += size;
  }
  if (new Set(entries.map(({ name }) => name)).size < entries.length)
    throw new FormatError("The zip has two files of one name");
  if (sum > limits.bytes) {
    const mb = (n: number) => Math.ceil(n / 1024 / 1024);
    throw new FormatError(`The zip unpacks to ${mb(sum)} MB; at most ${mb(limits.bytes)} are read`);
  }
  const files: ZipFiles = {};
  for (const entry of entries) files[entry.name] = contentOf(bytes, entry);
  return files;
}

/** So many packed bytes are unpacked at a time: they become a thousand times as many at most. */
const PORTION = 16_384;

/** What a file of a zip holds; it may be no larger than it says, and is not unpacked further. */
function contentOf(bytes: Uint8Array, { name, at, packed, size, method }: Entry): Uint8Array {
  const shown = `“${name.slice(0, 80)}” in the zip`;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (at + 30 > bytes.length || view.getUint32(at, true) !== LOCAL)
    throw new FormatError(`${shown} is not where the list says`);
  const from = at + 30 + view.getUint16(at + 26, true) + view.getUint16(at + 28, true);
  if (from + packed > bytes.length) throw new FormatError(`${shown} breaks off`);
  const body = bytes.subarray(from, from + packed);
  const wrong = () => new FormatError(`${shown} is not as long as it says`);
  if (method === 0) {
    if (packed !== size) throw wrong();
    return body.slice();
  }
  const out = new Uint8Array(size);
  let used = 0;
  const inflate = new Inflate((chunk) => {
    if (used + chunk.length > size) throw wrong();
    out.set(chunk, used);
    used += chunk.length;
  });
  try {
    for (let k = 0; k < body.length; k += PORTION)
      inflate.push(body.subarray(k, k + PORTION), k + PORTION >= body.length);
  } catch (error) {
    if (error instanceof FormatError) throw error;
    throw new FormatError(`${shown} cannot be unpacked: ${(error as Error).message}`);
  }
  if (used !== size) throw wrong();
  return out;
}

/** Files as one zip; those of which `stored` says so are put in as they are. Same files, same bytes. */
export function zipOf(
  files: ZipFiles,
  stored: (name: string) => boolean = () => false,
): Uint8Array {
  const all: Zippable = {};
  for (const [name, bytes] of Object.entries(files))
    all[name] = [bytes, { level: stored(name) ? 0 : 6, mtime: new Date(1980, 0, 1) }];
  return zipSync(all);
}
