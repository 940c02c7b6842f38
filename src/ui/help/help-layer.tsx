"use client";
import { Dialog } from "radix-ui";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useLayoutEffect, useState } from "react";
import { trackOf } from "@/core/score";
import { shownKey } from "../person/keys";
import { useDesk, useSession } from "../session/context";
import { useRequest } from "../session/requested";
import { handsWith } from "./hands";

interface Badge {
  key: string;
  left: number;
  top: number;
}

/** Where keys are shown: on every control in view that says one. */
function badges(): Badge[] {
  const { clientWidth, clientHeight } = document.documentElement;
  return [...document.querySelectorAll<HTMLElement>("[data-key]")].flatMap((element) => {
    const { left, right, bottom, top, width } = element.getBoundingClientRect();
    const seen =
      width > 0 && left >= 0 && right <= clientWidth && top >= 0 && bottom <= clientHeight;
    return seen
      ? [{ key: element.dataset.key ?? "", left: (left + right) / 2, top: bottom - 5 }]
      : [];
  });
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
        <Dialog.Overlay className="fixed inset-0 z-40 bg-base-100/45" data-testid="help-keys">
          {shown.map(({ key, left, top }) => (
            <kbd
              key={`${left} ${top}`}
              aria-hidden
              className="figure absolute -translate-x-1/2 rounded border border-base-300 bg-base-content px-1 text-[12px] leading-[16px] whitespace-nowrap text-base-100"
              style={{ left, top }}
            >
              {key}
            </kbd>
          ))}
        </Dialog.Overlay>
        <Dialog.Content
          aria-describedby={undefined}
          className="rounded-box fixed top-1/2 left-1/2 z-50 max-h-[76vh] w-[640px] max-w-[92vw] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-base-300 bg-base-100 px-5 py-4 text-[13px] shadow-xl"
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
          <div className="mt-2 grid gap-x-8 sm:grid-cols-2">
            {handsWith(pointer, kit).map(({ id, label, lines }) => (
              <section key={id} aria-label={label} className="mb-3">
                <h3 className="font-semibold">{label}</h3>
                <dl>
                  {lines.map(([press, does]) => (
                    <div key={press} className="border-b border-base-300 py-0.5">
                      <dt className="figure text-[12px]">{press}</dt>
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
