import { describe, expect, it } from "vitest";
import { seeded } from "../base";
import { parseChord, scalePitches } from "../pitch";
import { parseGroove } from "../groove";
import { generateProgressions } from "./chords/progressions";
import { movement } from "./chords/voicing";
import { generateIdeas } from "./ideas";
import type { ChordStretch } from "./common/options";
import type { IdeaOptions } from "./options";
import { PHRASE_DEFAULTS } from "./phrase/options";
import { grooveSource, hasGaps, type With } from "./rhythm/source";

const KEY = { root: 9, scale: "minor" };
const BAR = 3840;
/** Am, Dm, a G over its third, E7, each a bar. */
const CHORDS: ChordStretch[] = ["Am", "Dm", "G/B", "E7"].map((name, i) => {
  const { root, tones, bass } = parseChord(name)!;
  const classes = tones.map((tone) => (root + tone) % 12);
  return { from: i * BAR, to: (i + 1) * BAR, classes, ...(bass !== null && { bass }) };
});
const BASSES = [9, 2, 11, 4];
const asked = (options: Partial<IdeaOptions>) => ({
  key: KEY,
  bars: 4,
  chords: CHORDS,
  low: 33,
  high: 52,
  count: 1,
  ...options,
});
const over = (options: Partial<IdeaOptions>, seeds = 300) =>
  Array.from(
    { length: seeds },
    (_, seed) => generateIdeas({ ...asked(options), seed: 31 * seed })[0]!,
  );

describe("a bass line", () => {
  it("has each chord's bass where it begins, in its register, one note at a time", () => {
    for (const { notes, description } of over({ role: "bass" })) {
      CHORDS.forEach(({ from }, i) =>
        expect(notes.find(({ start }) => start === from)!.pitch % 12, description).toBe(BASSES[i]),
      );
      notes.forEach((note, i) => {
        expect(note.pitch).toBeGreaterThanOrEqual(33);
        expect(note.pitch).toBeLessThanOrEqual(52);
        const next = notes[i + 1];
        if (next) expect(note.start + note.length).toBeLessThanOrEqual(next.start);
      });
    }
  });

  it("steps into the next root as often as asked, and else stays in the chord", () => {
    const shares = [0, 50, 100].map((approach) => {
      let [steps, ends, strange, all] = [0, 0, 0, 0];
      for (const { notes } of over({ role: "bass", approach, density: 100 })) {
        CHORDS.forEach(({ from, to, classes }, i) => {
          const inside = notes.filter((note) => note.start >= from && note.start < to);
          const lead = inside.at(-1)!;
          const root = notes.find(({ start }) => start === to % (4 * BAR))!;
          if (to - lead.start <= 960 && inside.length > 1) {
            ends++;
            if (Math.abs(lead.pitch - root.pitch) <= 2 && lead.pitch % 12 !== BASSES[(i + 1) % 4])
              steps++;
          }
          for (const note of inside.slice(1, -1)) {
            all++;
            if (!classes.includes(note.pitch % 12) && note.pitch % 12 !== BASSES[i]) strange++;
          }
        });
      }
      return [steps / ends, strange / all] as const;
    });
    expect(shares[0]![0]).toBeLessThan(0.45);
    expect(shares[1]![0]).toBeGreaterThan(shares[0]![0] + 0.15);
    expect(shares[2]![0]).toBeGreaterThan(0.9);
    for (const [, strange] of shares) expect(strange).toBe(0);
  });

  it("steps into roots within the scale, and by a semitone as often as asked", () => {
    const scale = new Set([0, 2, 4, 5, 7, 9, 11]);
    const shares = [0, 50, 100].map((chromatic) => {
      let [semitones, steps, outside] = [0, 0, 0];
      for (const { notes } of over({ role: "bass", approach: 100, density: 100, chromatic })) {
        for (const { to } of CHORDS) {
          const root = notes.find(({ start }) => start === to % (4 * BAR))!;
          const lead = notes.filter(({ start }) => start < to).at(-1)!;
          if (lead.pitch === root.pitch) continue;
          steps++;
          if (Math.abs(lead.pitch - root.pitch) === 1) semitones++;
        }
        for (const { start, pitch } of notes) {
          const { classes } = CHORDS[Math.floor(start / BAR)]!;
          if (!scale.has(pitch % 12) && !classes.includes(pitch % 12)) outside++;
        }
      }
      return { semitones: semitones / steps, outside };
    });
    expect(shares[0]!.outside).toBe(0);
    expect(shares[1]!.outside).toBeGreaterThan(0);
    expect(shares[1]!.semitones).toBeGreaterThan(shares[0]!.semitones + 0.15);
    expect(shares[2]!.semitones).toBeGreaterThan(0.95);
  });

  it("keeps a rhythm that is given, and bars, exactly", () => {
    const rhythm = [-20, 480, 960, 2400, 3840, 5000, 9600].map((start, i) => ({
      start,
      length: 200 + i,
      velocity: 60 + i,
    }));
    const [before] = generateIdeas(asked({ role: "bass", seed: 3 }));
    for (const role of ["bass", "stabs"] as const)
      for (const { notes } of over({ role, rhythm, voices: 1 }, 40)) {
        expect(notes.map(({ start, velocity }) => [start, velocity])).toEqual(
          rhythm.map(({ start, velocity }) => [start, velocity]),
        );
        if (role === "bass")
          expect(notes.map(({ length }) => length)).toEqual(rhythm.map(({ length }) => length));
      }
    const inBar = (notes: readonly { start: number; pitch: number }[]) =>
      notes
        .filter(({ start }) => Math.floor(start / BAR) === 2)
        .map(({ start, pitch }) => [start, pitch]);
    for (const { notes } of over({ role: "bass", keepBars: [2], kept: before!.notes }, 40))
      expect(inBar(notes)).toEqual(inBar(before!.notes));
  });

  it("without chords stays on the key's own; each says what it is, none of a batch is alike", () => {
    const batch = generateIdeas({ ...asked({ role: "bass", chords: [], count: 12 }) });
    expect(
      new Set(batch.map(({ notes }) => notes.map((x) => `${x.start} ${x.pitch}`).join())).size,
    ).toBe(12);
    for (const { notes, description } of batch) {
      expect(description).toMatch(/^bass line, stays on its root, \d+ notes? in 4 bars/);
      expect([9, 0, 4]).toContain(notes[0]!.pitch % 12);
      for (const note of notes) expect([9, 0, 4]).toContain(note.pitch % 12);
    }
  });
});

describe("chords that accompany", () => {
  it("a pad holds each chord for as long as it lasts; voices move on average by less than a third", () => {
    const moves = over({ role: "pad", low: 50, high: 76, voices: 4 }).flatMap(({ notes }) => {
      const laid = CHORDS.map(({ from, to, classes }) => {
        const own = notes.filter(({ start }) => start === from);
        expect(own.every(({ length }) => length === to - from)).toBe(true);
        expect(new Set(own.map(({ pitch }) => pitch % 12))).toEqual(new Set(classes));
        return own.map(({ pitch }) => pitch).sort((a, b) => a - b);
      });
      return laid.slice(1).map((pitches, i) => movement(laid[i]!, pitches));
    });
    expect(moves.reduce((sum, way) => sum + way, 0) / moves.length).toBeLessThan(3);
  });

  it("stabs strike whole chords, short, and stop before the next chord", () => {
    for (const { notes } of over({ role: "stabs", low: 50, high: 76, voices: 3 }, 100)) {
      for (const note of notes) {
        const chord = CHORDS.find(({ to }) => note.start < to)!;
        expect(chord.classes).toContain(note.pitch % 12);
        expect(note.start + note.length).toBeLessThanOrEqual(chord.to);
        expect(note.length).toBeLessThanOrEqual(768);
        expect(notes.filter(({ start }) => start === note.start)).toHaveLength(3);
      }
    }
  });

  it("in a register too narrow for a chord have the tones that fit, or none", () => {
    for (const high of [50, 52, 57])
      for (const { notes } of over({ role: "pad", low: 50, high, voices: 4 }, 20))
        for (const { pitch } of notes) expect([pitch >= 50, pitch <= high]).toEqual([true, true]);
  });
});

describe("a rhythm with another's", () => {
  const random = seeded(5);
  /** Hits of two bars of sixteenths by chance, at least one. */
  const someHits = () => [
    0,
    ...Array.from({ length: 31 }, (_, i) => 240 * (i + 1)).filter(() => random() < 0.25),
  ];
  const line = (how: With, hits: number[], more: Partial<IdeaOptions> = {}) =>
    generateIdeas({
      key: KEY,
      bars: 2,
      low: 57,
      high: 81,
      count: 1,
      follow: { how, hits },
      ...more,
    })[0]!.notes;
  const starts = (notes: readonly { start: number }[]) => [
    ...new Set(notes.map(({ start }) => start)),
  ];

  it("follows it hit for hit, whatever the density", () => {
    for (let i = 0; i < 60; i++) {
      const hits = someHits();
      for (const role of ["melody", "stabs", "bass"] as const) {
        const own = starts(line("follow", hits, { role, density: 40 }));
        expect(own).toEqual(hits);
      }
    }
  });

  it("interlocks: never together with it", () => {
    let all = 0;
    for (let i = 0; i < 60; i++) {
      const hits = someHits().slice(1);
      for (const role of ["melody", "stabs"] as const) {
        const own = starts(line("interlock", hits, { role, density: 90 }));
        all += own.length;
        // A melody without any place at all keeps its first.
        if (own.length > 1) for (const start of own) expect(hits).not.toContain(start);
      }
    }
    expect(all).toBeGreaterThan(500);
  });

  it("answers in its gaps, after a breath, and not elsewhere", () => {
    const hits = [0, 240, 480, 3840, 4080, 4320];
    expect(hasGaps(hits, { beats: 4, unit: 4 }, 2 * BAR)).toBe(true);
    for (let seed = 0; seed < 60; seed++) {
      const own = starts(line("answer", hits, { role: "stabs", density: 80, seed: seed * 13 }));
      for (const start of own) expect(start % BAR).toBeGreaterThanOrEqual(480 + (3840 - 480) / 2);
    }
    // Often as the question went: three notes, a step apart.
    const answers = Array.from({ length: 60 }, (_, seed) =>
      starts(line("answer", hits, { role: "stabs", density: 80, seed: seed * 13 })).filter(
        (at) => at < BAR,
      ),
    );
    const alike = answers.filter(
      (own) => own.length === 3 && own[1]! - own[0]! === 240 && own[2]! - own[1]! === 240,
    );
    expect(alike.length).toBeGreaterThan(12);
    expect(new Set(answers.map((own) => own.join())).size).toBeGreaterThan(10);
    const busy = Array.from({ length: 16 }, (_, i) => 480 * i);
    expect(hasGaps(busy, { beats: 4, unit: 4 }, 2 * BAR)).toBe(false);
  });

  it("follows a groove: its steps and their timing, the louder ones first", () => {
    const groove = parseGroove("1/16 0/110 - 12/70 - -8/100 - 30/60 - 0/105 - - - -/90 - - 15/50")!;
    const source = (how: With) => grooveSource(groove, how, { beats: 4, unit: 4 }, 2);
    const all = [0, 492, 952, 1470, 1920, 2880, 3615];
    const over = (bars: readonly number[]) => [...bars, ...bars.map((at) => at + BAR)];
    const of = (density: number, role: IdeaOptions["role"] = "bass") =>
      starts(
        generateIdeas({ ...asked({ bars: 2, role, density }), follow: source("follow") })[0]!.notes,
      );
    expect(of(100)).toEqual(over(all));
    expect(of(58)).toEqual(over([0, 952, 1920, 2880]));
    expect(of(100, "stabs")).toEqual(over(all));
    // Steps that are all as loud: those on stronger places first.
    const plain = grooveSource(parseGroove("1/16 0/- 40/-")!, "follow", { beats: 4, unit: 4 }, 2);
    const half = generateIdeas({
      ...asked({ bars: 2, role: "bass", density: 50 }),
      follow: plain,
    })[0]!;
    expect(starts(half.notes)).toEqual(over([0, 480, 960, 1440, 1920, 2400, 2880, 3360]));
    // A groove of three steps goes round, in seven eighths too.
    const round = grooveSource(
      parseGroove("1/8 0/100 - 20/-")!,
      "follow",
      { beats: 7, unit: 8 },
      1,
    );
    expect(round.hits).toEqual([0, 980, 1440, 2420, 2880]);
  });

  it("answers a line with its own intervals where it goes as that went, and says so", () => {
    const scale = scalePitches(KEY, 0, 127);
    const steps = (pitches: readonly number[]) =>
      pitches.slice(1).map((pitch, i) => scale.indexOf(pitch) - scale.indexOf(pitches[i]!));
    const call = [69, 71, 72, 76];
    const hits = [0, 240, 480, 720, 3840, 4080, 4320, 4560];
    const follow = { how: "answer" as const, hits, pitches: [...call, ...call] };
    const phrases = { ...PHRASE_DEFAULTS, bars: 1, form: "phrases" } as const;
    let taken = 0;
    for (let seed = 0; seed < 200; seed++) {
      const options = { ...asked({ bars: 2, low: 57, high: 81 }), chords: [], phrases, seed };
      const { notes, description } = generateIdeas({ ...options, follow })[0]!;
      const first = notes.filter(({ start }) => start < BAR);
      const echoed =
        first.length === 4 && first.every((n, i) => n.start - first[0]!.start === 240 * i);
      if (!echoed) continue;
      taken++;
      expect(description).toMatch(/; takes up what it answers$/);
      // The last of the bar is the phrase's own end.
      expect(steps(first.map((n) => n.pitch)).slice(0, 2)).toEqual(steps(call).slice(0, 2));
      // Without pitches there is only the rhythm to take up.
      const deaf = generateIdeas({ ...options, follow: { how: "answer", hits } })[0]!;
      expect(deaf.description).not.toMatch(/takes up/);
    }
    expect(taken).toBeGreaterThan(40);
    expect(() => generateIdeas({ ...asked({}), follow: { ...follow, pitches: [60] } })).toThrow(
      "follow.pitches must be one for each of follow.hits",
    );
  });

  it("is a phrased line too: the places are the other's, the pitches its own", () => {
    const hits = [0, 720, 1440, 2400, 3360, 3840, 4560, 5280, 6720];
    const phrases = {
      form: "period",
      bars: 1,
      contour: "arch",
      drawn: [0, 1],
      climax: 60,
      strict: 100,
    } as const;
    const own = line("follow", hits, { phrases });
    expect(starts(own)).toEqual(hits);
    expect(own.at(-1)!.pitch % 12 === 9 || own.at(-1)!.pitch % 12 === 0).toBe(true);
  });
});

describe("chord lines and what follows them", () => {
  it("a bass over a generated line has its roots", () => {
    for (let seed = 0; seed < 40; seed++) {
      const [{ chords }] = generateProgressions({ key: KEY, bars: 4, seed, count: 1 }) as [
        ReturnType<typeof generateProgressions>[number],
      ];
      const spans = chords.map(({ name, start }, i): ChordStretch => {
        const chord = parseChord(name)!;
        return {
          from: start,
          to: chords[i + 1]?.start ?? 4 * BAR,
          classes: chord.tones.map((tone) => (chord.root + tone) % 12),
        };
      });
      const [bass] = generateIdeas(asked({ role: "bass", chords: spans, seed }));
      spans.forEach(({ from, classes }) =>
        expect(bass!.notes.find(({ start }) => start === from)!.pitch % 12).toBe(classes[0]),
      );
    }
  });
});
