"use client";
import { Popover as Radix } from "radix-ui";
import type { ReactElement, ReactNode, RefObject } from "react";

interface Props {
  /** Names what opens, for screen readers. */
  label: string;
  /** The button that opens it; left out where something else does and `anchor` says where it stands. */
  trigger?: ReactElement;
  anchor?: ReactElement;
  open?: boolean;
  onOpenChange?(open: boolean): void;
  side?: "top" | "bottom" | "left" | "right";
  align?: "start" | "center" | "end";
  className?: string;
  /** What has the keyboard when it opens; left out for the first thing in it. */
  first?: RefObject<HTMLElement | null>;
  /** Whether escape is something else's just now, and leaves it open. */
  keepsOnEscape?(): boolean;
  /** Takes the keyboard when it closes, where true; else that goes back to where it was. */
  takesKeyboard?(): boolean;
  children: ReactNode;
}

/**
 * Something that opens beside a control and stays inside the window. Escape or a press elsewhere
 * closes it; the keyboard then goes back to where it was.
 */
export function Popover({
  label,
  trigger,
  anchor,
  open,
  onOpenChange,
  side = "bottom",
  align = "start",
  className = "",
  first,
  keepsOnEscape,
  takesKeyboard,
  children,
}: Props) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      {trigger && <Radix.Trigger asChild>{trigger}</Radix.Trigger>}
      {anchor && <Radix.Anchor asChild>{anchor}</Radix.Anchor>}
      <Radix.Portal>
        <Radix.Content
          data-popover=""
          aria-label={label}
          side={side}
          align={align}
          sideOffset={4}
          collisionPadding={8}
          onOpenAutoFocus={(event) => {
            if (!first?.current) return;
            event.preventDefault();
            first.current.focus();
          }}
          onEscapeKeyDown={(event) => {
            if (keepsOnEscape?.()) event.preventDefault();
          }}
          onCloseAutoFocus={(event) => {
            if (takesKeyboard?.()) event.preventDefault();
          }}
          // Where another control opened it, the keyboard may still be on its way back from that one.
          onFocusOutside={anchor ? (event) => event.preventDefault() : undefined}
          className={`rounded-box z-40 flex max-h-(--radix-popover-content-available-height) flex-col overflow-y-auto border border-base-300 bg-base-100 text-[13px] shadow-lg outline-none ${className}`}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
