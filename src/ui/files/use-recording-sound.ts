"use client";
import { useEffect, useRef, useState } from "react";
import { clickAt } from "@/audio/click";
import { type Seconds, nth } from "@/core/base";
import type { Listening } from "../commands/files/listening";

/** Plays a recording by itself, on wish with a click at each attack. `at` is where it is; null where it is not heard. */
export function useRecordingSound({ sound }: Listening, times: readonly Seconds[]) {
  const [at, setAt] = useState<Seconds | null>(null);
  const [clicks, setClicks] = useState(false);
  const going = useRef<AudioContext | null>(null);
  const stop = () => {
    void going.current?.close().catch(() => undefined);
    going.current = null;
    setAt(null);
  };
  useEffect(
    () => () => {
      void going.current?.close().catch(() => undefined);
      going.current = null;
    },
    [],
  );
  const start = async () => {
    const context = (going.current = new AudioContext());
    await context.resume();
    const { channels, rate } = sound;
    const buffer = context.createBuffer(channels.length, nth(channels, 0).length, rate);
    channels.forEach((channel, c) => buffer.copyToChannel(channel, c));
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    const begins = context.currentTime + 0.05;
    source.start(begins);
    source.onended = () => going.current === context && stop();
    if (clicks)
      for (const time of times)
        clickAt(context.destination, begins + time, "beat", {
          sound: "tick",
          accent: false,
        });
    const follow = () => {
      if (going.current !== context) return;
      setAt(Math.max(0, context.currentTime - begins));
      requestAnimationFrame(follow);
    };
    follow();
  };
  const toggle = () => {
    if (going.current) stop();
    else void start();
  };
  return { at, clicks, setClicks, toggle };
}
