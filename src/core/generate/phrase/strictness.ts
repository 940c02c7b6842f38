import { nth } from "../../base";

/** How many notes of a kind there are so far, and how many of them are tones of the chord. */
interface Count {
  tones: number;
  total: number;
}

/**
 * Shares out which notes are tones of the chord, so that as many are as was asked over the whole line: where some are
 * settled by what comes again or closes a phrase, the others make up for them.
 */
export class Shares {
  private readonly counts: Record<"bar" | "beat", Count>;

  /** `share` 0–1 are to be tones; `dither` 0–1 says where in the line the others fall. */
  constructor(
    private readonly share: number,
    private readonly dither: readonly [bar: number, beat: number],
    from?: Shares,
  ) {
    const begin = (kind: "bar" | "beat") =>
      from ? { ...from.counts[kind] } : { tones: 0, total: 0 };
    this.counts = { bar: begin("bar"), beat: begin("beat") };
  }

  /** The same, to go on with what is not settled yet. */
  copy(): Shares {
    return new Shares(this.share, this.dither, this);
  }

  /** Whether the next note of a kind is to be a tone: a bar's first, or one on another beat. */
  next(kind: "bar" | "beat"): boolean {
    const { tones, total } = this.counts[kind];
    const dither = nth(this.dither, kind === "bar" ? 0 : 1);
    return tones + 0.5 < this.share * (total + 1) + dither - 0.5;
  }

  /** Counts a note: a tone, none, or, while it is not drawn, one as likely as not. */
  count(kind: "bar" | "beat", tone: boolean | "open"): void {
    const count = this.counts[kind];
    count.total++;
    count.tones += tone === "open" ? 0.5 : Number(tone);
  }
}
