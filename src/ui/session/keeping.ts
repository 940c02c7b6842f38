/** Work that is put off for a moment, and done at the latest when the page is left. */
export interface PutOff {
  /** Asks for it: done so long after it was first asked for, or, begun anew, so long after the last time. */
  ask(options?: { anew?: boolean }): void;
  /** Does it now where it was asked for, and never again. */
  stop(): void;
}

/**
 * Puts work off by so many ms; it is told whether the page is just left. Work that takes longer gives a promise: a page
 * that is left before that has come true has it done once more.
 */
export function putOff(work: (leaving: boolean) => void | Promise<void>, ms: number): PutOff {
  let timer: ReturnType<typeof setTimeout> | null = null;
  let underWay: Promise<void> | null = null;
  const now = (leaving = false) => {
    if (timer) clearTimeout(timer);
    timer = null;
    const mine = work(leaving) ?? null;
    underWay = mine;
    mine?.then(
      () => {
        if (underWay === mine) underWay = null;
      },
      // What failed is still to be done.
      () => undefined,
    );
  };
  const last = () => (timer ?? underWay) && now(true);
  window.addEventListener("pagehide", last);
  return {
    ask({ anew = false } = {}) {
      if (timer && anew) clearTimeout(timer);
      if (!timer || anew) timer = setTimeout(now, ms);
    },
    stop() {
      last();
      window.removeEventListener("pagehide", last);
    },
  };
}
