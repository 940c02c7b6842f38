"use client";
import { Dialog } from "radix-ui";
import { Download } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { DRAGGED_FORMAT, type Extent, formatOf } from "@/core/formats";
import { download } from "../commands/files/download";
import {
  OFFERED,
  EXTENT_NAMES,
  extentsNow,
  lastWish,
  makeFile,
  shownQuestions,
  soundSize,
  wishFor,
  type ExportWish,
} from "../commands/files/exporting";
import { clockText } from "../geometry/song-line";
import { useRequest } from "../session/requested";
import { useDesk, useSession } from "../session/context";
import { DialogHead } from "./dialog-head";
import { nth } from "@/core/base";
import { ParamFields } from "../fields/param-fields";
import { keyed } from "../person/keys";

/** An export that is under way. */
interface Under {
  label: string;
  /** 0–1. */
  done: number;
  /** Seconds until it will be done, if it goes on as it went; null until that can be told. */
  left: number | null;
  stop: AbortController;
}

/** Files out: which format, how much, and how; what is made goes on while the dialog is closed. */
export function ExportDialog() {
  const desk = useDesk();
  const { store } = desk;
  const [open, setOpen] = useState(false);
  const [wish, setWish] = useState<ExportWish | null>(null);
  const [under, setUnder] = useState<Under | null>(null);
  const busy = useRef<AbortController | null>(null);
  const now = () => store.getState();
  const show = (yes: boolean) => {
    if (yes) setWish(lastWish(now()) ?? wishFor(now(), DRAGGED_FORMAT));
    setOpen(yes);
  };
  const run = async (asked: ExportWish) => {
    if (busy.current) return;
    const stop = new AbortController();
    busy.current = stop;
    const { label } = formatOf(asked.format);
    const since = performance.now();
    setUnder({ label, done: 0, left: null, stop });
    try {
      const { body, name, message } = await makeFile(desk, asked, {
        signal: stop.signal,
        onProgress: (done) => {
          const went = (performance.now() - since) / 1000;
          const left = done > 0.02 ? (went * (1 - done)) / done : null;
          setUnder((old) => old && { ...old, done, left });
        },
      });
      stop.signal.throwIfAborted();
      download(body, name);
      toast.success([`“${name}” exported`, message].filter(Boolean).join(": "));
      setOpen(false);
    } catch (error) {
      if (stop.signal.aborted) toast.info(`${label} not exported: given up`);
      else toast.error(`${label} not exported: ${(error as Error).message}`);
    } finally {
      busy.current = null;
      setUnder(null);
    }
  };

  useRequest("export-dialog", () => show(true));
  useRequest("export-again", () => {
    const last = lastWish(now());
    if (last) void run(last);
    else show(true);
  });
  // Left without its project, nothing waits for the file any more.
  useEffect(() => () => busy.current?.abort(), []);

  return (
    <Dialog.Root open={open} onOpenChange={show} modal={false}>
      <Dialog.Trigger asChild>
        <button
          className="btn btn-ghost btn-sm relative px-1.5"
          aria-label="Export"
          {...keyed("Export: sound, MIDI, the project, a drawing", "export")}
        >
          <Download size={16} />
          {under && (
            // Over the icon, so that the bar stays as it is.
            <span className="figure absolute inset-x-0 -bottom-0.5 rounded bg-primary text-center text-[12px] leading-[13px] whitespace-nowrap text-primary-content">
              {percent(under.done)}
            </span>
          )}
        </button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          onInteractOutside={(event) => {
            // What is played or looked at beside it leaves it open.
            event.preventDefault();
          }}
          className="rounded-box fixed top-14 right-3 z-40 flex max-h-[calc(100vh-72px)] w-[560px] max-w-[calc(100vw-24px)] flex-col overflow-hidden border border-base-300 bg-base-100 text-[13px] shadow-2xl outline-none"
        >
          <DialogHead title="Export" className="px-4 pt-3 pb-1" />
          {wish && (
            <Asked
              wish={wish}
              busy={under !== null}
              onWish={setWish}
              onRun={() => void run(wish)}
              under={under}
            />
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const percent = (done: number) => `${Math.round(100 * done)} %`;

interface AskedProps {
  wish: ExportWish;
  busy: boolean;
  under: Under | null;
  onWish(wish: ExportWish): void;
  onRun(): void;
}

function Asked({ wish, busy, under, onWish, onRun }: AskedProps) {
  const { store } = useDesk();
  const state = useSession((state) => state);
  const extents = extentsNow(state, wish.format);
  const extent = extents.includes(wish.extent) ? wish.extent : nth(extents, 0);
  const asked = { ...wish, extent };
  const { defaults } = formatOf(wish.format);
  const questions = shownQuestions(asked);
  return (
    <>
      <div className="flex min-h-0 flex-1">
        <div
          role="radiogroup"
          aria-label="Format"
          className="flex w-[190px] shrink-0 flex-col gap-0.5 overflow-y-auto border-r border-base-300 p-2"
        >
          {OFFERED.map(({ id, label, about }) => (
            <label
              key={id}
              className={`cursor-pointer rounded-lg border-l-4 px-2 py-1.5 has-focus-visible:outline-2 ${
                id === wish.format
                  ? "border-primary bg-primary/10"
                  : "border-transparent hover:bg-base-200"
              }`}
            >
              <input
                type="radio"
                name="export-format"
                className="sr-only"
                checked={id === wish.format}
                onChange={() => onWish(wishFor(store.getState(), id, wish))}
              />
              <span className="block font-semibold">{label}</span>
              <span className="quiet block text-[12px] leading-snug">{about}</span>
            </label>
          ))}
        </div>
        <div className="flex min-w-0 flex-1 flex-col gap-2.5 overflow-y-auto p-3">
          {extents.length > 1 && (
            <Extents
              extents={extents}
              extent={extent}
              onChange={(to) => onWish({ ...wish, extent: to })}
            />
          )}
          <ParamFields
            key={wish.format}
            place="dialog"
            names={questions.map(([name]) => name)}
            about={Object.fromEntries(questions)}
            values={wish.answers}
            reset={defaults}
            onChange={(name, value) =>
              onWish({ ...wish, answers: { ...wish.answers, [name]: value } })
            }
          />
          {questions.length === 0 && extents.length === 1 && (
            <p className="quiet">There is nothing to choose: it holds everything.</p>
          )}
        </div>
      </div>
      <div className="flex min-h-[50px] items-center gap-3 border-t border-base-300 px-4 py-2">
        {under ? (
          <Progress under={under} />
        ) : (
          <>
            <span className="quiet figure min-w-0 flex-1 truncate">
              {sizeText(soundSize(state, asked))}
            </span>
            <button className="btn btn-primary btn-sm" disabled={busy} onClick={onRun}>
              Export
            </button>
          </>
        )}
      </div>
    </>
  );
}

function sizeText(size: ReturnType<typeof soundSize>): string {
  if (!size) return "";
  const mb = size.bytes / 1e6;
  const large = mb >= 1000 ? `${(mb / 1000).toFixed(1)} GB` : `${mb.toFixed(1)} MB`;
  return `${clockText(size.seconds)}, ${large} a file, and what rings on`;
}

interface ExtentsProps {
  extents: readonly Extent[];
  extent: Extent;
  onChange(extent: Extent): void;
}

const Extents = ({ extents, extent, onChange }: ExtentsProps) => (
  <div role="radiogroup" aria-label="How much" className="flex flex-wrap gap-1">
    {extents.map((one) => (
      <button
        key={one}
        role="radio"
        aria-checked={one === extent}
        className={`h-7 rounded-full border px-2.5 ${
          one === extent
            ? "border-primary bg-primary text-primary-content"
            : "border-base-300 hover:border-base-content/60"
        }`}
        onClick={() => onChange(one)}
      >
        {EXTENT_NAMES[one]}
      </button>
    ))}
  </div>
);

/** How much is done, and how long the rest will take. */
function Progress({ under: { label, done, left, stop } }: { under: Under }) {
  return (
    <>
      <progress
        className="progress progress-primary min-w-0 flex-1"
        aria-label={`${label} being exported`}
        value={done}
        max={1}
      />
      <span className="figure quiet w-[108px] text-right text-[12px]">
        {percent(done)}
        {left !== null && `, ${left < 1 ? "<1" : Math.ceil(left)} s left`}
      </span>
      <button className="btn btn-sm" onClick={() => stop.abort()}>
        Cancel
      </button>
    </>
  );
}
