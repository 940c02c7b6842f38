import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { barTicks } from "@/core/time";
import { type Project, metreOf, patternTicks } from "@/core/score";
import { must } from "@/core/base";

/** So many bars are heard of a project that is not open. */
const BARS = 4;

/** Makes the first bars of a project into sound and plays them, once. Gives a way to stop, and is told of the end. */
async function sound(project: Project, onEnd: () => void): Promise<() => void> {
  const { bounce } = await import("@/audio/bounce");
  const pattern = must(project.patterns[0]);
  const bars = BARS * barTicks(metreOf(project, pattern));
  const to = Math.min(patternTicks(project, pattern), bars);
  const buffer = await bounce(project, 0, to, { pattern: pattern.id, tail: 1 });
  const context = new AudioContext();
  await context.resume();
  const source = context.createBufferSource();
  source.buffer = buffer;
  source.connect(context.destination);
  source.onended = () => {
    void context.close();
    onEnd();
  };
  source.start();
  return () => source.stop();
}

/** What is heard of the projects that are shown: one at a time, its sound being made first. */
export interface Listening {
  /** Id of what is made ready or sounds; null for nothing. */
  id: string | null;
  sounding: boolean;
  /** Starts it, or stops it where it is what is heard. */
  toggle(id: string, project: () => Project | Promise<Project>): void;
  stop(): void;
}

export function useListening(): Listening {
  const [now, setNow] = useState<{ id: string; sounding: boolean } | null>(null);
  const turn = useRef({ stop: () => undefined as void, number: 0 });
  const stop = () => {
    turn.current.number++;
    turn.current.stop();
    turn.current.stop = () => undefined;
    setNow(null);
  };
  useEffect(() => {
    const { current } = turn;
    return () => {
      current.number++;
      current.stop();
    };
  }, []);
  const start = async (id: string, read: () => Project | Promise<Project>) => {
    const own = ++turn.current.number;
    const isCurrent = () => own === turn.current.number;
    setNow({ id, sounding: false });
    try {
      const ended = () => isCurrent() && setNow(null);
      const project = await read();
      if (!isCurrent()) return;
      const end = await sound(project, ended);
      // Another was wanted while this one was made.
      if (!isCurrent()) return end();
      turn.current.stop = end;
      setNow({ id, sounding: true });
    } catch (error) {
      if (!isCurrent()) return;
      setNow(null);
      toast.error(`It could not be played: ${(error as Error).message}`);
    }
  };
  return {
    id: now?.id ?? null,
    sounding: now?.sounding ?? false,
    stop,
    toggle: (id, project) => {
      const same = now?.id === id;
      stop();
      if (!same) void start(id, project);
    },
  };
}
