import { tempoBeat, tempoBeatName, type Metre, PPQ } from "@/core/time";

/** The note value that a tempo counts, drawn: fonts of systems do not all have it. */
export function BeatSign({ metre }: { metre: Metre }) {
  const beat = tempoBeat(metre);
  const dotted = beat === 1.5 * PPQ;
  const hollow = beat >= 2 * PPQ;
  return (
    <svg
      viewBox="0 0 12 14"
      className="inline-block h-[11px] w-[10px] align-[-1px]"
      role="img"
      aria-label={`${tempoBeatName(metre)}s a minute`}
    >
      <ellipse
        cx="4"
        cy="11.2"
        rx="3.1"
        ry="2.2"
        transform="rotate(-22 4 11.2)"
        fill={hollow ? "none" : "currentColor"}
        stroke="currentColor"
      />
      <path d="M6.9 10.6V1" stroke="currentColor" strokeWidth="1.1" />
      {dotted && <circle cx="10.2" cy="10.8" r="1.2" fill="currentColor" />}
    </svg>
  );
}
