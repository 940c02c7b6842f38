"use client";
import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  title: string;
  className?: string;
  /** What stands under the title. */
  children?: ReactNode;
}

/** The title of a dialog of files, and what closes it. */
export const DialogHead = ({ title, className = "", children }: Props) => (
  <div className={`flex items-start justify-between gap-2 ${className}`}>
    <div className="min-w-0">
      <Dialog.Title className="truncate text-[15px] font-semibold">{title}</Dialog.Title>
      {children}
    </div>
    <Dialog.Close asChild>
      <button className="btn btn-ghost btn-xs px-1" aria-label="Close">
        <X size={15} />
      </button>
    </Dialog.Close>
  </div>
);
