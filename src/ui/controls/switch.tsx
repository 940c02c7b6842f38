/** Mute and solo of a track or a lane: words, not colours alone. */
export function Switch({
  on,
  letter,
  label,
  onClick,
}: {
  on: boolean;
  letter: string;
  label: string;
  onClick(): void;
}) {
  return (
    <button
      className={`h-6 w-6 rounded-full border text-[12px] leading-none font-semibold ${
        on
          ? "border-base-content bg-base-content text-base-100"
          : "border-base-300 quiet hover:border-base-content"
      }`}
      aria-pressed={on}
      aria-label={label}
      title={label}
      onClick={onClick}
    >
      {letter}
    </button>
  );
}
