import type { Thumbnail } from "./thumbnail";

/** A thumbnail as whole numbers, five a mark, so that a page of a library is small. */
export interface Picture {
  rows: number;
  bars: number;
  /** For each mark: place and width in thousandths, row, size in hundredths, track × 2, + 1 for melody. */
  marks: readonly number[];
}

/** So many marks are told apart in so small a picture. */
const MAX = 160;

/** A thumbnail made small: evenly thinned where it has many marks. */
export function packPicture({ rows, bars, marks }: Thumbnail): Picture {
  const every = Math.max(1, marks.length / MAX);
  const kept = marks.filter((_, i) => Math.floor(i / every) !== Math.floor((i - 1) / every));
  return {
    rows,
    bars,
    marks: kept.flatMap((mark) => [
      Math.round(mark.at * 1000),
      Math.round(mark.width * 1000),
      mark.row,
      Math.round(mark.size * 100),
      mark.track * 2 + (mark.kind === "melody" ? 1 : 0),
    ]),
  };
}

/** The marks of a picture as a thumbnail has them. */
export function unpackPicture({ rows, bars, marks }: Picture): Thumbnail {
  return {
    rows,
    bars,
    marks: Array.from({ length: Math.floor(marks.length / 5) }, (_, i) => {
      const [at, width, row, size, track] = marks.slice(i * 5) as [
        number,
        number,
        number,
        number,
        number,
      ];
      return {
        at: at / 1000,
        width: width / 1000,
        row,
        size: size / 100,
        track: track >> 1,
        kind: track % 2 === 1 ? "melody" : "drums",
      };
    }),
  };
}
