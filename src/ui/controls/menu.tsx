"use client";
import { DropdownMenu as Radix, Toolbar } from "radix-ui";
import type { ReactElement, ReactNode } from "react";

/** One command of a menu, with its key where it has one. */
export interface MenuCommand {
  label: string;
  keys?: string;
  run(): void;
}

const ITEM =
  "flex min-h-7 w-full cursor-pointer items-center justify-between gap-3 rounded-lg px-2 py-1 text-left outline-none";

const Keys = ({ keys }: { keys: string | undefined }) =>
  keys ? <kbd className="figure quiet text-[12px]">{keys}</kbd> : null;

interface Props {
  label: string;
  trigger: ReactElement;
  open?: boolean;
  onOpenChange?(open: boolean): void;
  items: readonly MenuCommand[];
  align?: "start" | "end";
  /** What stands below the commands, such as a form. */
  children?: ReactNode;
}

/** A menu of commands: arrow keys, the first letters of a name, enter; escape leaves it. */
export function Menu({
  label,
  trigger,
  open,
  onOpenChange,
  items,
  align = "end",
  children,
}: Props) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange} modal={false}>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          aria-label={label}
          align={align}
          sideOffset={4}
          collisionPadding={8}
          className="rounded-box z-40 flex max-h-(--radix-dropdown-menu-content-available-height) min-w-52 flex-col overflow-y-auto border border-base-300 bg-base-100 p-1.5 text-[13px] shadow-lg"
        >
          {items.map((item) => (
            <Radix.Item
              key={item.label}
              className={`${ITEM} data-[highlighted]:bg-primary/15`}
              onSelect={item.run}
            >
              {item.label}
              <Keys keys={item.keys} />
            </Radix.Item>
          ))}
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** Commands as a list inside a popover: one stop for the tab key, arrow keys inside. */
export function CommandList({
  label,
  items,
  onDone,
}: {
  label: string;
  items: readonly MenuCommand[];
  /** After any of them. */
  onDone(): void;
}) {
  return (
    <Toolbar.Root orientation="vertical" aria-label={label} className="flex flex-col">
      {items.map((item) => (
        <Toolbar.Button
          key={item.label}
          className={`${ITEM} hover:bg-base-200 focus-visible:bg-primary/15`}
          onClick={() => {
            item.run();
            onDone();
          }}
        >
          {item.label}
          <Keys keys={item.keys} />
        </Toolbar.Button>
      ))}
    </Toolbar.Root>
  );
}
