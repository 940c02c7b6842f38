import { Search } from "lucide-react";

interface Props {
  label: string;
  /** What stands in it while it is empty; its label, where left out. */
  placeholder?: string;
  value: string;
  longest?: number;
  className?: string;
  onChange(value: string): void;
}

/** A field to search by typing. */
export const SearchField = ({
  label,
  placeholder = label,
  value,
  longest = 60,
  className = "w-56",
  onChange,
}: Props) => (
  <label className={`input input-sm gap-2 ${className}`}>
    <Search size={14} aria-hidden />
    <input
      type="search"
      className="outline-none!"
      aria-label={label}
      placeholder={placeholder}
      value={value}
      maxLength={longest}
      onChange={(event) => onChange(event.target.value)}
    />
  </label>
);
