"use client";
import { Dialog } from "radix-ui";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useLayoutEffect, useState } from "react";
import { clamp } from "@/core/base";
import { trackOf } from "@/core/score";
import { shownKey } from "../person/keys";
import { useDesk, useSession } from "../session/context";
import { useRequest } from "../session/requested";
import { LESSONS } from "./lessons";
import { handsWith } from "./hands";

interface Badge {
  key: string;
  left: number;
  top: number;
}

/** Width of a sign of the figures' type at 12 px, room beside a text, and height of a badge with its gap, in px. */
const [SIGN, BESIDE, ROW] = [7.3, 12, 19];

/** Where keys are shown: under every control in view that says one; where they would lie over each other, lower. */
function badges(): Badge[] {
  const { clientWidth, clientHeight } = document.documentElement;
  const wanted = [...document.querySelectorAll<HTMLElement>("[data-key]")]
    .map((element) => ({ key: element.dataset.key ?? "", box: element.getBoundingClientRect() }))
    .filter(({ box }) => box.width > 0 && box.left >= 0 && box.right <= clientWidth)
    .filter(({ box }) => box.top >= 0 && box.bottom <= clientHeight)
    .sort((a, b) => a.box.left - b.box.left);
  const placed: (Badge & { right: number })[] = [];
  for (const { key, box } of wanted) {
    const width = key.length * SIGN + BESIDE;
    const middle = (box.left + box.right - width) / 2;
    const left = clamp(middle, 2, clientWidth - width - 2);
    let top = Math.min(box.bottom - 5, clientHeight - ROW);
    const covered = () =>
      placed.some((one) => one.right > left && Math.abs(one.top - top) < ROW - 1);
    const step = top > clientHeight / 2 ? -ROW : ROW;
    for (let tries = 0; tries < 4 && covered(); tries++) top += step;
    placed.push({ key, left, top, right: left + width });
  }
  return placed;
}

/** Help: keys on the controls themselves, and what hands do on the sheet with the pointer at hand. */
export function HelpLayer() {
  const { store } = useDesk();
  const router = useRouter();
  const settings = `/settings?from=${useSession((state) => state.id)}`;
  const [open, setOpen] = useState(false);
  const [shown, setShown] = useState<Badge[]>([]);
  const pointer = useSession((state) => (state.erasing ? "erase" : state.tool));
  const kit = useSession(
    (state) => state.track !== "" && trackOf(state.project, state.track).kind === "drums",
  );
  useRequest("help", () => setOpen((was) => !was));
  useRequest("keys", () => void window.open("/keys", "_blank", "noopener"));
  useRequest("settings", () => router.push(settings));
  useLayoutEffect(() => {
    if (!open) return;
    const place = () => setShown(badges());
    place();
    window.addEventListener("resize", place);
    return () => window.removeEventListener("resize", place);
  }, [open]);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-base-100/30" data-testid="help-keys">
          {shown.map(({ key, left, top }) => (
            <kbd
              key={`${left} ${top}`}
              aria-hidden
              className="figure absolute rounded border border-base-300 bg-base-content px-1 text-[12px] leading-[16px] whitespace-nowrap text-base-100"
              style={{ left, top }}
            >
              {key}
            </kbd>
          ))}
        </Dialog.Overlay>
        <Dialog.Content
          aria-describedby={undefined}
          className="rounded-box fixed top-1/2 left-1/2 z-50 max-h-[70vh] w-[720px] max-w-[92vw] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-base-300 bg-base-100 px-5 py-4 text-[13px] shadow-xl"
          // The keyboard is the sheet's again, wherever it was.
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            store.getState().request("sheet");
          }}
          onKeyDown={(event) => {
            if (event.key !== "?") return;
            event.preventDefault();
            event.stopPropagation();
            setOpen(false);
          }}
        >
          <Dialog.Title className="text-[15px] font-semibold">
            What hands do on the sheet
          </Dialog.Title>
          <div className="mt-2 gap-x-8 sm:columns-2">
            {handsWith(pointer, kit).map(({ id, label, lines }) => (
              <section key={id} aria-label={label} className="mb-3 break-inside-avoid">
                <h3 className="font-semibold">{label}</h3>
                <dl>
                  {lines.map(([press, does]) => (
                    <div key={press} className="flex gap-3 border-b border-base-300 py-0.5">
                      <dt className="w-[118px] shrink-0 font-medium">{press}</dt>
                      <dd className="quiet">{does}</dd>
                    </div>
                  ))}
                </dl>
              </section>
            ))}
          </div>
          <p className="quiet mt-1">
            Keys stand on the controls they belong to. Any action by its name: {shownKey("palette")}
            . Escape closes this.
          </p>
          <p className="mt-2 flex flex-wrap items-center gap-x-2">
            Shown step by step:
            {LESSONS.map(({ id, label }) => (
              <button
                key={id}
                className="btn btn-xs h-[26px] min-h-0 font-normal"
                onClick={() => {
                  setOpen(false);
                  store.getState().setTools({ lesson: id });
                }}
              >
                {label}
              </button>
            ))}
          </p>
          <p className="mt-2 flex gap-5">
            <Link className="link" href="/keys" target="_blank">
              All keys, to search and print
            </Link>
            <Link className="link" href={settings}>
              Settings, and keys to change
            </Link>
          </p>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
