interface Props {
  label: string;
  title?: string;
  "data-key"?: string | undefined;
  on: boolean;
  onClick(): void;
}

/** A switch that says its name and shows whether it is on. */
export const Toggle = ({ label, title, on, onClick, ...key }: Props) => (
  <button
    className={`h-[26px] shrink-0 rounded-full border px-1.5 text-[12px] whitespace-nowrap ${
      on
        ? "border-primary bg-primary/15 font-semibold"
        : "border-base-300 hover:border-base-content"
    }`}
    aria-pressed={on}
    title={title}
    {...key}
    onClick={onClick}
  >
    {label}
  </button>
);
