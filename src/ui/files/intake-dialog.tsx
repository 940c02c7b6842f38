"use client";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { ENCODINGS, type ReadOptions } from "@/core/formats";
import { SOUNDS } from "@/audio/sounds";
import {
  intakeText,
  longest,
  notImported,
  plainWish,
  readIntake,
  rewished,
  takeIn,
  type ImportWish,
  type Intake,
  type Into,
} from "../commands/files/importing";
import { Choice } from "../controls/choice";
import type { SessionStore } from "../state/store";
import { DialogHead } from "./dialog-head";
import { must } from "@/core/base";
import { Said } from "./option-text";

/** Longer patterns are offered to be cut, into so many bars. */
const LONG = 8;
const CUTS = [2, 4, 8] as const;

const PLACES: readonly { into: Into; label: string; about: string }[] = [
  { into: "project", label: "Another project", about: "This one stays as it is" },
  {
    into: "tracks",
    label: "New tracks here",
    about: "Into the current pattern, which grows where it must",
  },
  {
    into: "patterns",
    label: "New patterns here",
    about: "With tracks of their own, after those there are",
  },
];

interface Props {
  file: File;
  /** What was read of it. */
  read: Intake;
  /** The open project; null in the library, where a file becomes a project. */
  store: SessionStore | null;
  onClose(): void;
  /** It was taken in: as a project, whose id is given, or into the open one. */
  onTaken(id: string | null): void;
}

/** A file that was read, with what it holds and what will be done. */
export function IntakeDialog({ file, read, store, onClose, onTaken }: Props) {
  const [intake, setIntake] = useState(read);
  const [wish, setWish] = useState(() => plainWish(read));
  const [busy, setBusy] = useState(false);
  const attempt = async (work: () => Promise<void>) => {
    setBusy(true);
    try {
      await work();
    } catch (error) {
      notImported(file.name, error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="rounded-box fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] w-[620px] max-w-[calc(100vw-24px)] -translate-x-1/2 flex-col overflow-hidden border border-base-300 bg-base-100 text-[13px] shadow-2xl outline-none"
        >
          <Shown
            intake={intake}
            wish={wish}
            busy={busy}
            places={store ? PLACES : []}
            // Read again another way; what was chosen stays.
            onRead={(options) =>
              void attempt(async () => {
                const { pedalled: pedal, encoding } = intake;
                const again = await readIntake(file, { pedal, encoding, ...options });
                setIntake(again);
                setWish(rewished(wish, again));
              })
            }
            onWish={setWish}
            onRun={() => void attempt(async () => onTaken(await takeIn(store, intake, wish)))}
          />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

interface ShownProps {
  intake: Intake;
  wish: ImportWish;
  busy: boolean;
  places: typeof PLACES;
  onWish(wish: ImportWish): void;
  onRead(options: ReadOptions): void;
  onRun(): void;
}

function Shown({ intake, wish, busy, places, onWish, onRead, onRun }: ShownProps) {
  const change = (id: string, part: Partial<Wished>) =>
    onWish({
      ...wish,
      tracks: wish.tracks.map((track) => (track.id === id ? { ...track, ...part } : track)),
    });
  const notes = (id: string) =>
    intake.project.patterns.reduce(
      (sum, pattern) => sum + (pattern.parts.find((part) => part.track === id)?.notes.length ?? 0),
      0,
    );
  return (
    <>
      <DialogHead title={`Import “${intake.fileName}”`} className="px-4 pt-3 pb-2">
        <p className="quiet">{intakeText(intake)}</p>
      </DialogHead>
      {places.length > 0 && (
        <Choice
          label="Where to"
          value={wish.into}
          onChange={(into) => onWish({ ...wish, into })}
          className="flex gap-1.5 px-4 pb-2"
          optionClass="flex-1 border-base-300 px-2 py-1.5 text-left"
          options={places.map(({ into, label, about }) => ({
            value: into,
            label,
            shown: <Said label={label} about={about} />,
          }))}
        />
      )}
      <div className="min-h-0 flex-1 overflow-y-auto border-y border-base-300 px-4 py-1.5">
        {wish.tracks.map((track) => (
          <TrackRow
            key={track.id}
            track={track}
            notes={notes(track.id)}
            onChange={(part) => change(track.id, part)}
          />
        ))}
      </div>
      {longest(intake) > LONG && (
        <label className="flex items-center gap-2 px-4 pt-2">
          <span className="quiet">Split into patterns of</span>
          <select
            className="select select-xs w-[132px]"
            aria-label="Split into patterns"
            value={wish.cut}
            onChange={(event) => onWish({ ...wish, cut: Number(event.target.value) })}
          >
            <option value={0}>its whole length</option>
            {CUTS.map((bars) => (
              <option key={bars} value={bars}>
                {bars} bars
              </option>
            ))}
          </select>
          <span className="quiet">equal ones are one, the song is made of them</span>
        </label>
      )}
      {intake.encoding && (
        <label className="flex items-center gap-2 px-4 pt-2">
          <span className="quiet">Its names are read as</span>
          <select
            className="select select-xs w-[176px]"
            aria-label="How names are read"
            value={intake.encoding}
            disabled={busy}
            onChange={(event) => onRead({ encoding: event.target.value })}
          >
            {Object.entries(ENCODINGS).map(([id, label]) => (
              <option key={id} value={id}>
                {label}
              </option>
            ))}
          </select>
        </label>
      )}
      {intake.pedal && (
        <label className="flex items-center gap-2 px-4 pt-2">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={intake.pedalled}
            disabled={busy}
            onChange={(event) => onRead({ pedal: event.target.checked })}
          />
          Notes are held as long as the sustain pedal is down
        </label>
      )}
      <div className="flex min-h-[50px] items-center gap-3 px-4 py-2">
        <p className="quiet min-w-0 flex-1 text-[12px]">
          {intake.notKept.length > 0
            ? `Not kept: ${intake.notKept.join(", ")}`
            : "Everything in it is kept"}
        </p>
        <button
          className="btn btn-primary btn-sm"
          disabled={busy || wish.tracks.every((track) => !track.taken)}
          onClick={onRun}
        >
          Import
        </button>
      </div>
    </>
  );
}

type Wished = ImportWish["tracks"][number];

interface RowProps {
  track: Wished;
  notes: number;
  onChange(part: Partial<Wished>): void;
}

/** One track of the file: whether it is taken, and as what. */
function TrackRow({ track, notes, onChange }: RowProps) {
  return (
    <div className="flex h-9 items-center gap-2">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        aria-label={`Take ${track.name}`}
        checked={track.taken}
        onChange={(event) => onChange({ taken: event.target.checked })}
      />
      <span className={`min-w-0 flex-1 truncate ${track.taken ? "" : "quiet line-through"}`}>
        {track.name}
      </span>
      <span className="figure quiet w-[76px] text-right text-[12px]">{notes} notes</span>
      <select
        className="select select-xs w-[92px]"
        aria-label={`What ${track.name} is`}
        value={track.kind}
        disabled={!track.taken}
        onChange={(event) => {
          const kind = event.target.value as typeof track.kind;
          onChange({ kind, sound: must(SOUNDS.find((sound) => sound.kind === kind)).id });
        }}
      >
        <option value="drums">drums</option>
        <option value="melody">melody</option>
      </select>
      <select
        className="select select-xs w-[148px]"
        aria-label={`Sound of ${track.name}`}
        value={track.sound}
        disabled={!track.taken}
        onChange={(event) => onChange({ sound: event.target.value })}
      >
        {SOUNDS.filter((sound) => sound.kind === track.kind).map((sound) => (
          <option key={sound.id} value={sound.id}>
            {sound.label}
          </option>
        ))}
      </select>
    </div>
  );
}
