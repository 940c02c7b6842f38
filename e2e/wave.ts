/** A 16-bit mono WAV of a falling tone, written out by hand after RIFF/WAVE. */
export function wave(seconds: number, hz = 330, rate = 22_050): Buffer {
  const frames = Math.round(seconds * rate);
  const bytes = Buffer.alloc(44 + 2 * frames);
  bytes.write("RIFF", 0);
  bytes.writeUInt32LE(36 + 2 * frames, 4);
  bytes.write("WAVEfmt ", 8);
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(1, 22);
  bytes.writeUInt32LE(rate, 24);
  bytes.writeUInt32LE(2 * rate, 28);
  bytes.writeUInt16LE(2, 32);
  bytes.writeUInt16LE(16, 34);
  bytes.write("data", 36);
  bytes.writeUInt32LE(2 * frames, 40);
  for (let i = 0; i < frames; i++) {
    const level = Math.exp((-4 * i) / frames);
    bytes.writeInt16LE(
      Math.round(24_000 * level * Math.sin((2 * Math.PI * hz * i) / rate)),
      44 + 2 * i,
    );
  }
  return bytes;
}
