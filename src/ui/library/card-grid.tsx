"use client";
import { must } from "@/core/base";
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useLayoutEffect, useRef, useState, type ReactNode } from "react";
import { PICTURE_HEIGHT } from "./picture";

/** Width a card needs at least, and the height of a row of cards with the gap below it, in CSS pixels. */
const LEAST = 352;
const GAP = 20;
const TEXT = 90;

interface Props {
  count: number;
  /** Told of the first and last card that are near the window. */
  onRange(start: number, end: number): void;
  render(index: number): ReactNode;
}

/** Cards in as many columns as fit, of which only the rows near the window are made. */
export function CardGrid({ count, onRange, render }: Props) {
  const list = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(LEAST * 3 + 2 * GAP);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => {
    const element = must(list.current);
    const measure = () => {
      setWidth(element.clientWidth);
      setTop(element.getBoundingClientRect().top + window.scrollY);
    };
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    measure();
    return () => observer.disconnect();
  }, []);
  const columns = Math.max(1, Math.floor((width + GAP) / (LEAST + GAP)));
  const cardWidth = (width - (columns - 1) * GAP) / columns;
  const rowHeight = Math.round(cardWidth * PICTURE_HEIGHT + TEXT + GAP);
  const rows = useWindowVirtualizer({
    count: Math.ceil(count / columns),
    estimateSize: () => rowHeight,
    overscan: 2,
    scrollMargin: top,
    initialRect: { width: 1280, height: 800 },
  });
  useEffect(() => rows.measure(), [rows, rowHeight]);
  const visible = rows.getVirtualItems();
  const [from, to] = [visible[0]?.index ?? 0, visible[visible.length - 1]?.index ?? 0];
  useEffect(() => {
    if (count > 0) onRange(from * columns, Math.min(count, (to + 1) * columns) - 1);
  }, [count, columns, from, to, onRange]);
  return (
    <div
      ref={list}
      role="list"
      className="relative"
      style={{ height: Math.max(0, rows.getTotalSize() - GAP) }}
    >
      {visible.map((row) => (
        <div
          key={row.key}
          role="presentation"
          className="absolute inset-x-0 grid"
          style={{
            top: row.start - top,
            gap: GAP,
            gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
          }}
        >
          {Array.from({ length: Math.min(columns, count - row.index * columns) }, (_, i) =>
            render(row.index * columns + i),
          )}
        </div>
      ))}
    </div>
  );
}
