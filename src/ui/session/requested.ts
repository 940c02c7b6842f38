import { useEffect, useRef } from "react";
import { useDesk, useSession } from "./context";

/** What was not there to answer for so long is not wanted any more. */
const PATIENCE_MS = 1000;

/**
 * Answers when a command calls for this field or menu by its id (`call` of the tools): at once, or as
 * soon as it is there. A call is answered once.
 */
export function useRequest(id: string | null, answer: () => void): void {
  const { store } = useDesk();
  const called = useSession((state) => state.requested);
  const latest = useRef(answer);
  useEffect(() => {
    latest.current = answer;
  });
  useEffect(() => {
    if (!called || called.id !== id) return;
    store.getState().setTools({ requested: null });
    if (Date.now() - called.at < PATIENCE_MS) latest.current();
  }, [called, id, store]);
}
