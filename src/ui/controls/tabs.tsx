"use client";
import { Tabs as Radix } from "radix-ui";
import type { ReactNode } from "react";

interface Props<T extends string> {
  label: string;
  value: T;
  tabs: readonly { id: T; label: string }[];
  onChange(value: T): void;
  /** The panel of the tab that is open. */
  children: ReactNode;
}

/** Panels that stand in one place: arrow keys go from tab to tab. */
export function Tabs<T extends string>({ label, value, tabs, onChange, children }: Props<T>) {
  return (
    <Radix.Root
      value={value}
      onValueChange={(next) => onChange(next as T)}
      className="flex min-h-0 flex-1 flex-col"
    >
      <Radix.List
        aria-label={label}
        className="mx-3.5 flex gap-4 border-b border-base-300 pt-2 max-[1100px]:gap-2.5"
      >
        {tabs.map((tab) => (
          <Radix.Trigger
            key={tab.id}
            value={tab.id}
            className="data-[state=inactive]:text-[var(--sheet-quiet)] -mb-px cursor-pointer border-b-2 border-transparent pb-2 text-[13px] hover:text-base-content data-[state=active]:border-primary data-[state=active]:font-semibold"
          >
            {tab.label}
          </Radix.Trigger>
        ))}
      </Radix.List>
      <Radix.Content
        value={value}
        tabIndex={-1}
        className="flex min-h-0 flex-1 flex-col outline-none"
      >
        {children}
      </Radix.Content>
    </Radix.Root>
  );
}
