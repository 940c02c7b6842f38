/**
 * Ways to read the bytes of a text, by the label that the WHATWG Encoding Standard gives it. A MIDI file does not say
 * which it uses (SMF 1.0 asks for ASCII); programs write what their system does.
 */
export const ENCODINGS: Readonly<Record<string, string>> = {
  "utf-8": "Unicode",
  "windows-1252": "Western",
  "windows-1250": "Central European",
  "windows-1251": "Cyrillic",
  "koi8-r": "Cyrillic, KOI8-R",
  "windows-1253": "Greek",
  "windows-1254": "Turkish",
  "windows-1257": "Baltic",
  shift_jis: "Japanese, Shift JIS",
  "euc-jp": "Japanese, EUC",
  "euc-kr": "Korean",
  gb18030: "Chinese, simplified",
  big5: "Chinese, traditional",
};

/**
 * The texts of a file, read once all are known: as asked, or else as UTF-8 where all of them are that, and as
 * Western where one is not.
 */
export class Texts {
  private readonly found: { event: { text: string }; data: Uint8Array }[] = [];

  /** The event gets its text from these bytes with `read`. */
  add<E extends { text: string }>(event: E, data: Uint8Array): E {
    this.found.push({ event, data });
    return event;
  }

  /** Reads them all; gives the encoding taken, or null where all are ASCII, which is the same in each. */
  read(wanted?: string): string | null {
    const plain = this.found.every(({ data }) => data.every((byte) => byte < 0x80));
    const encoding = plain ? "utf-8" : (wanted ?? this.likely());
    const decoder = new TextDecoder(encoding);
    for (const { event, data } of this.found) event.text = decoder.decode(data);
    return plain ? null : encoding;
  }

  private likely(): string {
    const strict = new TextDecoder("utf-8", { fatal: true });
    try {
      for (const { data } of this.found) strict.decode(data);
      return "utf-8";
    } catch {
      return "windows-1252";
    }
  }
}
