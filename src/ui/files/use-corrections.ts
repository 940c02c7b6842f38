import { useRef, useState } from "react";
import type { Bpm, Seconds } from "@/core/base";
import type { Metre } from "@/core/time";
import { PLAIN_SENSITIVITY } from "@/core/listen";
import { notListened, type Hits, type Listening } from "../commands/files/listening";

/** Where bars are laid over a recording. */
export interface Laid {
  tempo: Bpm;
  first: Seconds;
}

/** What was heard in a recording, as it is corrected: attacks, what each is, tempo and first bar. */
export function useCorrections(listening: Listening, metre: Metre, projectTempo: Bpm) {
  const { began, name } = listening;
  const [sensitivity, setSensitivity] = useState(PLAIN_SENSITIVITY);
  const [times, setTimes] = useState<readonly Seconds[]>(began.times);
  const [found, setFound] = useState<Hits>(began);
  const [laid, setLaid] = useState<Laid>({
    tempo: began.beat?.tempo ?? projectTempo,
    first: began.beat?.first ?? 0,
  });
  /** Whether tempo and first bar were corrected by hand: they then stay. */
  const [byHand, setByHand] = useState(false);
  const [chosen, setChosen] = useState(-1);
  const [busy, setBusy] = useState(false);
  const asked = useRef(0);

  /** What is at these times; the last question asked counts. */
  const hear = async (next: readonly Seconds[], bars: "keep" | "find") => {
    const turn = ++asked.current;
    setTimes(next);
    try {
      const hits = await listening.hits(next, metre);
      if (turn !== asked.current) return;
      setFound(hits);
      if (bars === "find" && hits.beat) setLaid({ tempo: hits.beat.tempo, first: hits.beat.first });
    } catch (error) {
      notListened(name, error);
    }
  };
  const listenAgain = async (value: number) => {
    setSensitivity(value);
    setChosen(-1);
    setBusy(true);
    try {
      await hear(await listening.onsets(value), byHand ? "keep" : "find");
    } catch (error) {
      notListened(name, error);
    } finally {
      setBusy(false);
    }
  };
  const lay = (next: Laid) => {
    setByHand(true);
    setLaid(next);
  };
  const moveAttacks = (next: readonly Seconds[], index: number) => {
    setChosen(index);
    void hear(next, "keep");
  };
  return {
    sensitivity,
    times,
    found,
    laid,
    byHand,
    chosen,
    busy,
    setBusy,
    setChosen,
    lay,
    listenAgain,
    moveAttacks,
  };
}

export type Corrections = ReturnType<typeof useCorrections>;
