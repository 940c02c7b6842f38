"use client";
import { RadioGroup as Radix } from "radix-ui";
import type { ReactNode } from "react";

/** One of the things to choose from. */
export interface Option<T extends string> {
  value: T;
  /** What is seen: a word or an icon. */
  shown: ReactNode;
  /** Its name, where what is seen is no word. */
  label?: string;
  title?: string;
  /** Its key, where it has one: help shows it there. */
  "data-key"?: string | undefined;
}

interface Props<T extends string> {
  label: string;
  /** Null where none of them is chosen. */
  value: T | null;
  options: readonly Option<T>[];
  onChange(value: T): void;
  className?: string;
  /** Classes of one option, whether chosen or not; the colour of its border among them. */
  optionClass?: string;
}

/** One of a few: arrow keys go from one to the next and choose it. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  className = "flex gap-1",
  optionClass = "border-transparent",
}: Props<T>) {
  return (
    <Radix.Root
      aria-label={label}
      value={value ?? ""}
      onValueChange={(next) => onChange(next as T)}
      className={className}
    >
      {options.map((option) => (
        <Radix.Item
          key={option.value}
          value={option.value}
          aria-label={option.label}
          title={option.title}
          data-key={option["data-key"]}
          className={`cursor-pointer rounded-lg border data-[state=checked]:border-primary data-[state=checked]:bg-primary/15 data-[state=checked]:font-semibold data-[state=unchecked]:hover:border-base-content ${optionClass}`}
        >
          {option.shown}
        </Radix.Item>
      ))}
    </Radix.Root>
  );
}
