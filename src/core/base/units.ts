/** A time or length in ticks: 1/960 of a quarter note. Whole where it is kept, exact while it is computed. */
export type Ticks = number;

/** A time in seconds; of the audio clock where a moment is meant. */
export type Seconds = number;

/** A time in thousandths of a second. */
export type Milliseconds = number;

/** Quarter notes a minute, 20 to 400. */
export type Bpm = number;

/** A level in dB: 0 leaves it as it is; −60 on a track means silence. */
export type Decibels = number;

/** A frequency in cycles a second. */
export type Hertz = number;

/** A pitch by its MIDI number, 0 to 127; middle C is 60. On drums, which pad (General MIDI percussion). */
export type MidiPitch = number;

/** A difference of pitch; 12 are an octave, fractions are allowed where a sound is tuned. */
export type Semitones = number;

/** A difference of pitch in hundredths of a semitone. */
export type Cents = number;

/** How hard a note is struck, by its MIDI number, 1 to 127. */
export type Velocity = number;

/** A place in the stereo field: −1 left, 0 the centre, 1 right. */
export type Pan = number;

/** A share of something in percent. */
export type Percent = number;
