"use client";
import { useDesk, useSession } from "../../session/context";

/** As long as it is held, what is heard and seen is without the chain, or without the transform that is being set. */
export function BypassButton({ title }: { title: string }) {
  const { store } = useDesk();
  const bypassed = useSession((state) => state.bypassed);
  const bypass = (to: boolean) => store.getState().setHearing({ bypassed: to });
  return (
    <button
      className="btn btn-sm flex-1 select-none"
      title={title}
      onPointerDown={(event) => {
        // What is told of the cards becomes shorter: the button may slip away from under the hand.
        event.currentTarget.setPointerCapture(event.pointerId);
        bypass(true);
      }}
      onPointerUp={() => bypass(false)}
      onLostPointerCapture={() => bypass(false)}
      onKeyDown={(event) => (event.key === " " || event.key === "Enter") && bypass(true)}
      onKeyUp={() => bypass(false)}
      onBlur={() => bypassed && bypass(false)}
    >
      Bypass (hold)
    </button>
  );
}
