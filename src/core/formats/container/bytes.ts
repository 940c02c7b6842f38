/** Input was not a file of the format it should be. The message says what is wrong and where. */
export class FormatError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "FormatError";
  }
}

/** Reads big-endian numbers from bytes; never past the end, which is a `FormatError`. */
export class ByteReader {
  at: number;
  constructor(
    private readonly bytes: Uint8Array,
    from = 0,
    private readonly end = bytes.length,
  ) {
    this.at = from;
  }

  get left(): number {
    return this.end - this.at;
  }

  u8(): number {
    if (this.at >= this.end) throw new FormatError(`The file ends too early, at byte ${this.at}`);
    return this.bytes[this.at++]!;
  }

  u16(): number {
    return this.u8() * 0x100 + this.u8();
  }

  u32(): number {
    return this.u16() * 0x10000 + this.u16();
  }

  /** Variable-length quantity: 7 bits a byte, at most four bytes (SMF 1.0, “Variable Length Quantity”). */
  vlq(): number {
    // One byte, mostly.
    const short = this.at < this.end ? this.bytes[this.at]! : 0x80;
    if (short < 0x80) {
      this.at++;
      return short;
    }
    let value = 0;
    for (let i = 0; i < 4; i++) {
      const byte = this.u8();
      value = value * 128 + (byte & 0x7f);
      if (byte < 0x80) return value;
    }
    throw new FormatError(`A time or length at byte ${this.at - 4} is longer than four bytes`);
  }

  take(count: number): Uint8Array {
    if (count > this.left) {
      throw new FormatError(`The file ends too early: ${count} bytes wanted at byte ${this.at}`);
    }
    this.at += count;
    return this.bytes.subarray(this.at - count, this.at);
  }

  text(count: number): string {
    return String.fromCharCode(...this.take(count));
  }
}

/** Collects big-endian numbers into bytes. */
export class ByteWriter {
  private bytes = new Uint8Array(1024);
  private used = 0;

  private room(count: number): void {
    if (this.used + count <= this.bytes.length) return;
    const larger = new Uint8Array(Math.max(this.bytes.length * 2, this.used + count));
    larger.set(this.bytes.subarray(0, this.used));
    this.bytes = larger;
  }

  u8(...values: number[]): void {
    this.room(values.length);
    for (const value of values) this.bytes[this.used++] = value;
  }

  /** Three bytes: what most MIDI messages are. */
  three(a: number, b: number, c: number): void {
    this.room(3);
    this.bytes[this.used++] = a;
    this.bytes[this.used++] = b;
    this.bytes[this.used++] = c;
  }

  u16(value: number): void {
    this.u8((value >> 8) & 0xff, value & 0xff);
  }

  u32(value: number): void {
    this.u16(value >>> 16);
    this.u16(value & 0xffff);
  }

  vlq(value: number): void {
    this.room(4);
    if (value >= 0x200000) this.bytes[this.used++] = 0x80 | ((value >> 21) & 0x7f);
    if (value >= 0x4000) this.bytes[this.used++] = 0x80 | ((value >> 14) & 0x7f);
    if (value >= 0x80) this.bytes[this.used++] = 0x80 | ((value >> 7) & 0x7f);
    this.bytes[this.used++] = value & 0x7f;
  }

  append(bytes: Uint8Array): void {
    this.room(bytes.length);
    this.bytes.set(bytes, this.used);
    this.used += bytes.length;
  }

  done(): Uint8Array {
    return this.bytes.slice(0, this.used);
  }
}
