import { useSyncExternalStore } from "react";

const never = () => () => undefined;

/** False while the page is made on the server and first shown, true from then on. */
export function useMounted(): boolean {
  return useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
}
