import { type Ticks, lowerBound, clamp } from "@/core/base";
import { type Project, type Section, patternBar } from "@/core/score";

/** A section of the song as it lies on the strip, in CSS pixels. */
export interface SongBox {
  section: Section;
  /** Its number in the song, from 0. */
  index: number;
  x: number;
  width: number;
  /** Bars of the song before it. */
  bar: number;
}

/** The song on the strip: time is even but where a section would be too narrow to hold. */
export interface SongLine {
  boxes: readonly SongBox[];
  width: number;
  total: Ticks;
  xOf(tick: Ticks): number;
  tickOf(x: number): Ticks;
  /** The bar line nearest to a tick. */
  barNear(tick: Ticks): Ticks;
}

/** No section is narrower, in pixels. */
const NARROWEST = 34;

/** Lays the song's sections out over a width; wider where they need it. */
export function songLine(project: Project, sections: readonly Section[], width: number): SongLine {
  const last = sections[sections.length - 1];
  const total = last ? last.at + last.length : 0;
  const scale = total > 0 ? width / total : 0;
  let [x, bar] = [0, 0];
  const boxes = sections.map((section, index): SongBox => {
    const own = Math.max(NARROWEST, section.length * scale);
    const box = { section, index, x, width: own, bar };
    x += own;
    bar += section.length / patternBar(project, section.pattern);
    return box;
  });
  const shrink = x > width && x < width * 1.05 ? width / x : 1;
  const placed = boxes.map((box) => ({ ...box, x: box.x * shrink, width: box.width * shrink }));
  const starts = placed.map((box) => box.section.at);
  const lefts = placed.map((box) => box.x);
  const at = (list: readonly number[], value: number) =>
    placed[Math.max(0, lowerBound(list, value + 1e-6) - 1)];
  const xOf = (tick: Ticks) => {
    const box = at(starts, tick);
    return box ? box.x + ((tick - box.section.at) / box.section.length) * box.width : 0;
  };
  const tickOf = (pixel: number) => {
    const box = at(lefts, pixel);
    if (!box) return 0;
    const tick = box.section.at + ((pixel - box.x) / box.width) * box.section.length;
    return clamp(tick, 0, total);
  };
  const barNear = (tick: Ticks) => {
    const box = at(starts, tick);
    if (!box) return 0;
    const { section } = box;
    const own = patternBar(project, section.pattern);
    const bars = Math.round((tick - section.at) / own);
    return Math.min(section.at + section.length, section.at + Math.max(0, bars) * own);
  };
  return { boxes: placed, width: x * shrink, total, xOf, tickOf, barNear };
}

/** A length of time as minutes and seconds: `3:07`. */
export function clockText(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}
