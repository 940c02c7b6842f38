"use client";
import { useSession } from "../session/context";

/** Says where the caret stands and what an edit did: to screen readers, and for a while to be seen. */
export function Announcement({ track }: { track: string }) {
  const message = useSession((state) => state.announcement);
  return (
    <>
      <p className="sr-only" role="status" aria-live="polite" data-track={track}>
        {message}
      </p>
      <p
        key={message}
        aria-hidden
        className="said pointer-events-none absolute right-2 bottom-1 rounded-lg bg-base-100/85 px-2 py-0.5 text-[12px]"
      >
        {message}
      </p>
    </>
  );
}
