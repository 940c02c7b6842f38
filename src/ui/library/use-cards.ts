import { useCallback, useEffect, useRef, useState } from "react";
import { api, type LibraryView } from "../saving/api";
import { CARDS_AT_A_TIME, type ProjectCard as CardData } from "@/core/stored";

const PAGE = CARDS_AT_A_TIME;

/** Pauses between looks for pictures that are being made: the first, and where they stop growing. */
const FIRST_PAUSE_MS = 600;
const LONGEST_PAUSE_MS = 10_000;

interface Page {
  cards: readonly CardData[];
  total: number;
  deleted: number;
}

const sameView = (a: LibraryView, b: LibraryView) =>
  a.search === b.search && a.sort === b.sort && a.deleted === b.deleted;

/**
 * The cards of the library as far as they are looked at: page by page, searched and sorted by the server.
 * `need` fetches the pages of a range of cards; `refresh` fetches again what is shown.
 */
export function useCards(first: Page, view: LibraryView) {
  const [pages, setPages] = useState<ReadonlyMap<number, readonly CardData[]>>(
    () => new Map([[0, first.cards]]),
  );
  const [counts, setCounts] = useState({ total: first.total, deleted: first.deleted });
  const [failed, setFailed] = useState<string | null>(null);
  const asked = useRef(new Set([0]));
  const shown = useRef(view);
  const wanted = useRef<[number, number]>([0, 0]);

  const load = useCallback(async (page: number, of: LibraryView, pages: "first" | "further") => {
    asked.current.add(page);
    try {
      const found = await api.library({ ...of, offset: page * PAGE, limit: PAGE });
      if (!sameView(of, shown.current)) return;
      setPages((before) => new Map(pages === "first" ? [] : before).set(page, found.projects));
      setCounts({ total: found.total, deleted: found.deleted });
      setFailed(null);
    } catch (error) {
      asked.current.delete(page);
      setFailed((error as Error).message);
    }
  }, []);

  const refresh = useCallback(async () => {
    const [from, to] = wanted.current;
    const list = Array.from({ length: to - from + 1 }, (_, i) => from + i);
    asked.current = new Set(list);
    for (const [i, page] of list.entries())
      await load(page, shown.current, i === 0 ? "first" : "further");
  }, [load]);

  useEffect(() => {
    if (sameView(view, shown.current)) return;
    shown.current = view;
    wanted.current = [0, 0];
    void refresh();
  }, [view, refresh]);

  const need = useCallback(
    (start: number, end: number) => {
      wanted.current = [Math.floor(start / PAGE), Math.floor(Math.max(start, end) / PAGE)];
      for (let page = wanted.current[0]; page <= wanted.current[1]; page++) {
        if (!asked.current.has(page)) void load(page, shown.current, "further");
      }
    },
    [load],
  );

  // Pictures that are being made are there a moment later, or much later where the server is busy.
  const unfinished = [...pages.values()].flat().some((card) => card.bars === null);
  useEffect(() => {
    if (!unfinished) return;
    let pause = FIRST_PAUSE_MS;
    let timer: ReturnType<typeof setTimeout> | null = null;
    const later = () => {
      timer = setTimeout(() => void again(), pause);
      pause = Math.min(pause * 1.5, LONGEST_PAUSE_MS);
    };
    const again = async () => {
      if (!document.hidden) await refresh();
      if (timer) later();
    };
    later();
    return () => {
      if (timer) clearTimeout(timer);
      timer = null;
    };
  }, [unfinished, view, refresh]);

  const card = (i: number): CardData | undefined => pages.get(Math.floor(i / PAGE))?.[i % PAGE];
  return { card, ...counts, failed, need, refresh };
}
