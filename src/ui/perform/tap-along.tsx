"use client";
import { clamp, lastOf } from "@/core/base";
import { useEffect, useRef, useState } from "react";
import { tapOffset } from "@/core/perform";
import { ValueField } from "../controls/value-field";
import { useSetting, setSettings } from "../person/settings";
import { useDesk } from "../session/context";

const CLICKS = 12;
const GAP_MS = 600;

/** Latency: known by number, or measured by tapping along with clicks. */
export function TapAlong() {
  const { engine } = useDesk();
  const latency = useSetting("latency");
  const [message, setMessage] = useState("");
  const [running, setRunning] = useState(false);
  const taps = useRef<number[]>([]);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(
    () => () => {
      if (timer.current) clearTimeout(timer.current);
    },
    [],
  );

  const begin = async () => {
    taps.current = [];
    setRunning(true);
    setMessage("Tap here with every click");
    try {
      const clicks = await engine.clicksAlong(CLICKS, GAP_MS);
      timer.current = setTimeout(
        () => {
          setRunning(false);
          const found = tapOffset(clicks, taps.current);
          if (!found) {
            setMessage("Too few taps near the clicks. The latency stays as it was");
            return;
          }
          const ms = Math.round(clamp(found.ms, -200, 500));
          setSettings({ latency: ms });
          setMessage(`${found.taps} taps, ${found.ms} ms in the middle, ±${found.spread} ms`);
        },
        lastOf(clicks) - performance.now() + GAP_MS,
      );
    } catch (error) {
      setRunning(false);
      setMessage(`Not measured: ${(error as Error).message}`);
    }
  };
  return (
    <div className="flex flex-col gap-1 border-t border-base-300 pt-2">
      <div className="flex items-center gap-2">
        <span className="quiet w-[90px] shrink-0 leading-tight">Input latency</span>
        <ValueField
          label="Input latency"
          className="w-20 font-medium"
          value={latency}
          min={-200}
          max={500}
          reset={0}
          format={(value) => `${value} ms`}
          onChange={(ms) => setSettings({ latency: Math.round(ms) })}
        />
        {running ? (
          <button
            className="btn btn-sm btn-primary flex-1 touch-none"
            autoFocus
            onPointerDown={(event) => taps.current.push(event.timeStamp)}
            onKeyDown={(event) => {
              if (event.key === "Tab" || event.key === "Escape" || event.repeat) return;
              event.preventDefault();
              event.stopPropagation();
              taps.current.push(event.timeStamp);
            }}
          >
            Tap
          </button>
        ) : (
          <button className="btn btn-sm flex-1" onClick={() => void begin()}>
            Tap along to measure
          </button>
        )}
      </div>
      <p className="quiet min-h-4 text-[12px]" role="status">
        {message ||
          `Output delay ${engine.outputLatency.toFixed(0)} ms, measured and compensated. This is the input delay of the keys.`}
      </p>
    </div>
  );
}
