import { Zip, ZipPassThrough } from "fflate";

/** So many bytes of a file are taken at a time. */
const PORTION = 4_000_000;
/** Sizes and places in a zip without its extension for more are held in 32 bits. */
const MAX_BYTES = 0xffffffff;

/**
 * Files in one zip, stored as they are: sound would hardly become smaller. Throws a RangeError where they are
 * more than such a file can hold. Source: APPNOTE.TXT, .ZIP File Format Specification.
 */
export async function zipped(files: readonly { name: string; body: Blob }[]): Promise<Blob> {
  const bytes = files.reduce((sum, { body }) => sum + body.size, 0);
  if (bytes > MAX_BYTES - 100_000) {
    throw new RangeError(
      `The files are ${(bytes / 2 ** 30).toFixed(1)} GB together; a zip holds 4. Export fewer, or in FLAC`,
    );
  }
  const parts: Blob[] = [];
  const out = new Promise<Blob>((resolve, reject) => {
    const zip = new Zip((error, chunk, final) => {
      if (error) return reject(error);
      parts.push(new Blob([chunk as Uint8Array<ArrayBuffer>]));
      if (final) resolve(new Blob(parts, { type: "application/zip" }));
    });
    void (async () => {
      for (const { name, body } of files) {
        const entry = new ZipPassThrough(name);
        zip.add(entry);
        for (let at = 0; at < body.size; at += PORTION) {
          const portion = await body.slice(at, at + PORTION).arrayBuffer();
          entry.push(new Uint8Array(portion), at + PORTION >= body.size);
        }
        if (body.size === 0) entry.push(new Uint8Array(), true);
      }
      zip.end();
    })().catch(reject);
  });
  return out;
}
