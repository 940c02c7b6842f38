/** So many bytes are put into text at a time: more arguments than a call can take would throw. */
const PORTION = 32_768;

/** Bytes as base64 (RFC 4648). */
export function base64Of(bytes: Uint8Array): string {
  let text = "";
  for (let i = 0; i < bytes.length; i += PORTION)
    text += String.fromCharCode(...bytes.subarray(i, i + PORTION));
  return btoa(text);
}

/** The bytes of a base64 text. Throws for one that is none. */
export const bytesOfBase64 = (base64: string): Uint8Array<ArrayBuffer> =>
  Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
