import { FormatError } from "../container/bytes";

/** What kind of audio file bytes are, by their first bytes. */
export type AudioKind = "wav" | "flac" | "mp3" | "ogg";

export const AUDIO_TYPES: Readonly<Record<AudioKind, string>> = {
  wav: "audio/wav",
  flac: "audio/flac",
  mp3: "audio/mpeg",
  ogg: "audio/ogg",
};

const text = (bytes: Uint8Array, at: number, length: number) =>
  String.fromCharCode(...bytes.subarray(at, at + length));

/**
 * Says which kind of audio file bytes are, or throws a `FormatError` that says what is wrong. The
 * container is read: a WAV must hold a format and sound, all of it; the others begin as theirs do.
 * Sources: RIFF/WAVE (Multimedia Programming Interface and Data Specifications 1.0), RFC 9639
 * (FLAC), RFC 3533 (Ogg), ISO/IEC 11172-3 (MPEG audio frames), id3.org (ID3v2).
 */
export function audioKind(bytes: Uint8Array): AudioKind {
  if (bytes.length === 0) throw new FormatError("The file is empty");
  if (text(bytes, 0, 4) === "RIFF") {
    checkWave(bytes);
    return "wav";
  }
  const need = (least: number, kind: string) => {
    if (bytes.length < least) throw new FormatError(`The ${kind} file breaks off at its beginning`);
  };
  if (text(bytes, 0, 4) === "fLaC") {
    need(42, "FLAC");
    return "flac";
  }
  if (text(bytes, 0, 4) === "OggS") {
    need(58, "Ogg");
    return "ogg";
  }
  const frame = bytes[0] === 0xff && (bytes[1]! & 0xe0) === 0xe0 && (bytes[1]! & 0x06) !== 0;
  if (text(bytes, 0, 3) === "ID3" || frame) {
    need(128, "MP3");
    return "mp3";
  }
  throw new FormatError("This is no WAV, FLAC, MP3 or OGG file");
}

function checkWave(bytes: Uint8Array): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 12 || text(bytes, 8, 4) !== "WAVE") {
    throw new FormatError("The RIFF file holds no WAVE");
  }
  let format = false;
  for (let at = 12; at + 8 <= bytes.length;) {
    const id = text(bytes, at, 4);
    const size = view.getUint32(at + 4, true);
    const left = bytes.length - at - 8;
    if (id === "fmt ") {
      if (size < 16 || left < 16) throw new FormatError("The WAV file's format breaks off");
      const [channels, rate] = [view.getUint16(at + 10, true), view.getUint32(at + 12, true)];
      if (channels === 0 || rate === 0) {
        throw new FormatError(`The WAV file says ${channels} channels at ${rate} Hz`);
      }
      format = true;
    } else if (id === "data") {
      if (!format) throw new FormatError("The WAV file has sound before its format");
      if (size === 0) throw new FormatError("The WAV file holds no sound at all");
      if (size > left) {
        throw new FormatError(
          `The WAV file is cut off: it says ${size} bytes of sound and holds ${left}`,
        );
      }
      return;
    }
    // Chunks begin on even bytes.
    at += 8 + size + (size % 2);
  }
  throw new FormatError("The WAV file breaks off before its sound");
}
