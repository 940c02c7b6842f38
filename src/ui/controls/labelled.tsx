"use client";

interface SwitchProps {
  label: string;
  value: boolean;
  className?: string;
  onChange(value: boolean): void;
}

/** A switch with its label before it. */
export const SwitchField = ({ label, value, className = "", onChange }: SwitchProps) => (
  <label className={`flex items-center justify-between gap-2 ${className}`}>
    <span className="quiet">{label}</span>
    <input
      type="checkbox"
      className="toggle toggle-primary toggle-xs"
      checked={value}
      onChange={(event) => onChange(event.target.checked)}
    />
  </label>
);

interface ChoiceProps {
  label: string;
  value: string;
  options: readonly string[];
  /** How an option is shown, if not as it is. */
  text?(option: string): string;
  className?: string;
  /** Size of the list of choices, as Tailwind classes. */
  size: string;
  onChange(value: string): void;
}

/** A choice of a few with its label before it. */
export const ChoiceField = ({
  label,
  value,
  options,
  text = (option) => option,
  className = "",
  size,
  onChange,
}: ChoiceProps) => (
  <label className={`flex items-center justify-between gap-2 ${className}`}>
    <span className="quiet">{label}</span>
    <select
      className={`select ${size}`}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    >
      {options.map((option) => (
        <option key={option} value={option}>
          {text(option)}
        </option>
      ))}
    </select>
  </label>
);
