import { describe, expect, it } from "vitest";
import { makeNote } from "../score";
import { grid } from "../time";
import { timingOf } from "./timing";
import { timingWords } from "./timing-words";

const FOUR = { beats: 4, unit: 4 } as const;
/** Notes at beats of two bars of 4/4, so many ms late each at 125 bpm: half a millisecond is a tick. */
const words = (
  late: readonly number[],
  step = 960,
  metre = FOUR as { beats: number; unit: 4 | 8 },
) => {
  const notes = late.map((ms, i) => makeNote({ id: `${i}`, start: i * step + ms * 2 }));
  return timingWords(timingOf(notes, grid(16), 125).drifts, metre);
};

describe("timing in words", () => {
  it("tells which beats lie late or early, how far, and how evenly", () => {
    expect(words([0, 8, 0, 8, 0, 8, 0, 8])).toBe(
      "2nd and 4th beat 8 ms late; 1st and 3rd beat on the grid",
    );
    expect(words([0, 6, 0, 10, 0, 8, 0, 8])).toBe(
      "2nd and 4th beat 8 ms late, even within 2 ms; 1st and 3rd beat on the grid",
    );
    expect(words([20, -5, 20, -5])).toBe(
      "1st and 3rd beat 20 ms late; 2nd and 4th beat 5 ms early",
    );
    expect(words([-12, -12, -12, -12])).toBe("1st, 2nd, 3rd and 4th beat 12 ms early");
  });

  it("tells of what lies between beats, and of a metre's own beats", () => {
    expect(words([0, 15, 0, 15, 0, 15], 480)).toBe(
      "between beats 15 ms late; 1st, 2nd and 3rd beat on the grid",
    );
    // 6/8 is felt in two beats of three eighths (handbook practice).
    expect(words([0, 9, 0, 9], 1440, { beats: 6, unit: 8 })).toBe(
      "2nd beat 9 ms late; 1st beat on the grid",
    );
  });

  it("does not call on the grid what lies on both sides of it", () => {
    expect(words([20, 0, 0, 0, -20, 0, 0, 0])).toBe(
      "1st beat about the grid, within 20 ms; 2nd, 3rd and 4th beat on the grid",
    );
    expect(words([0, 20, 0, 0, 0, -20, 0, 0])).toBe(
      "2nd beat about the grid, within 20 ms; 1st, 3rd and 4th beat on the grid",
    );
    expect(words([30, 0, 0, 0, -10, 0, 0, 0])).toMatch(
      /^1st beat 10 ms late on average, within 20 ms/,
    );
  });

  it("takes a hit before the first bar for the last bar's end, and says nothing of nothing", () => {
    const early = makeNote({ id: "a", start: -16 });
    expect(timingWords(timingOf([early], grid(16), 125).drifts, FOUR)).toBe("1st beat 8 ms early");
    expect(timingWords([], FOUR)).toBe("");
  });
});
