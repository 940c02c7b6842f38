import type { Point } from "./gesture";

/** A stroke is followed in steps of so many pixels: less than the reach of a hit. */
const STROKE_STEP = 3;

/** Everything a stroke passed since it was seen last: a fast one leaves no gaps. */
export class Stroke {
  constructor(private last: Point) {}

  along(point: Point, each: (at: Point) => void): void {
    const from = this.last;
    this.last = point;
    const steps = Math.ceil(Math.hypot(point.x - from.x, point.y - from.y) / STROKE_STEP);
    for (let i = 1; i < steps; i++) {
      const share = i / steps;
      const x = from.x + share * (point.x - from.x);
      each({ ...point, x, y: from.y + share * (point.y - from.y) });
    }
    each(point);
  }
}
