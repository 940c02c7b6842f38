"use client";
import { Play, Square } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { plural } from "@/core/base";
import { metreOf, patternOf } from "@/core/score";
import {
  BECOMES,
  MAX_SLICES,
  barsOf,
  isEmpty,
  notListened,
  putOnPad,
  putRecording,
  type Becomes,
  type Hits,
  type Listening,
  type RecordingWish,
} from "../commands/files/listening";
import { Choice } from "../controls/choice";
import { SwitchField } from "../controls/labelled";
import { useDesk, useSession } from "../session/context";
import { BeatFields } from "./beat-fields";
import { DialogHead } from "./dialog-head";
import { PadField, TrackField } from "./onto-fields";
import { Said } from "./option-text";
import { RecordingPicture } from "./recording-picture";
import { useCorrections } from "./use-corrections";
import { useOnto } from "./use-onto";
import { useRecordingSound } from "./use-recording-sound";

const ABOUT: Readonly<Record<Becomes, { label: string; about: string }>> = {
  hits: { label: "Hits on lanes", about: "Kick, snare and hat by their sound" },
  pad: { label: "One pad", about: "The whole of it, struck as one sound" },
  slices: { label: "Slices on pads", about: "The recording itself, cut at its attacks" },
  line: { label: "A single line", about: "Sung or played, as notes" },
  rhythm: { label: "A rhythm", about: "Notes without a pitch yet" },
};

const NO_HITS: Hits["hits"] = [];
const NO_TIMES: readonly number[] = [];

interface Props {
  listening: Listening;
  onClose(): void;
}

/** A recording shown with what was heard in it, to be corrected, heard, and put into the pattern. */
export function RecordingDialog({ listening, onClose }: Props) {
  const { store } = useDesk();
  const project = useSession((state) => state.project);
  const patternId = useSession((state) => state.pattern);
  const pattern = patternOf(project, patternId);
  const metre = metreOf(project, pattern);
  const [becomes, setBecomes] = useState<Becomes>("hits");
  const [taking, setTaking] = useState(() => ({
    takesTempo: isEmpty(project),
    asReference: true,
  }));
  const corrections = useCorrections(listening, metre, project.tempo);
  const { times, found, laid, busy, setBusy } = corrections;
  const onto = useOnto(project, becomes);
  const onPad = becomes === "pad";
  const sound = useRecordingSound(listening, onPad ? NO_TIMES : times);
  const bars = barsOf(project, patternId, listening.length, laid);
  const tooMany = becomes === "slices" && times.length > MAX_SLICES;
  const nothing = becomes !== "line" && !onPad && times.length === 0;

  const put = async () => {
    const { track, pad } = onto;
    setBusy(true);
    try {
      const done = onPad
        ? await putOnPad(store, listening, { track, pitch: pad })
        : await putRecording(store, listening, {
            becomes,
            times,
            hits: found.hits,
            ...laid,
            track,
            ...taking,
          });
      if (done) return onClose();
    } catch (error) {
      notListened(listening.name, error);
    }
    setBusy(false);
  };

  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="rounded-box fixed top-[6vh] left-1/2 z-50 flex max-h-[88vh] w-[760px] max-w-[calc(100vw-24px)] -translate-x-1/2 flex-col gap-2.5 overflow-y-auto border border-base-300 bg-base-100 px-4 py-3 text-[13px] shadow-2xl outline-none"
        >
          <DialogHead title={`What is in “${listening.name}”`}>
            <p className="quiet" role="status">
              {busy
                ? "Listening …"
                : `${listening.length.toFixed(2)} s · ${plural(times.length, "attack")} · ${plural(bars, "bar")}`}
            </p>
          </DialogHead>
          <Choice
            label="What it becomes"
            value={becomes as Becomes}
            onChange={(value) => setBecomes(value)}
            className="grid grid-cols-5 gap-1.5"
            optionClass="border-base-300 px-2 py-1.5 text-left"
            options={BECOMES.map((value) => ({
              value,
              label: ABOUT[value].label,
              shown: <Said {...ABOUT[value]} />,
            }))}
          />
          {/* Where the whole is one sound, its attacks and bars have no say. */}
          <div inert={onPad}>
            <RecordingPicture
              channels={listening.sound.channels}
              length={listening.length}
              times={onPad ? NO_TIMES : times}
              hits={becomes === "hits" ? found.hits : NO_HITS}
              {...laid}
              metre={metre}
              chosen={corrections.chosen}
              playhead={sound.at}
              onChosen={corrections.setChosen}
              onTimes={corrections.moveAttacks}
              onLaid={corrections.lay}
            />
          </div>
          {!onPad && (
            <p className="quiet text-[12px]">
              Click to add an attack, double click one to delete it, drag it to move it. Drag the
              first bar line to where the one is, and a later one to stretch the bars.
            </p>
          )}
          <div className="grid grid-cols-2 gap-x-6 gap-y-1">
            {!onPad && <BeatFields corrections={corrections} length={listening.length} />}
            <TrackField onto={onto} />
            {onPad ? (
              <PadField onto={onto} />
            ) : (
              <PatternSwitches value={taking} onChange={setTaking} />
            )}
          </div>
          <div className="flex items-center gap-2">
            <HearButton sound={sound} clicks={!onPad} />
            <p className="min-w-0 flex-1 text-right text-[12px]" role="alert">
              {tooMany &&
                `${times.length} slices are more than ${MAX_SLICES} lanes hold: make it less sensitive`}
            </p>
            <button
              className="btn btn-primary btn-sm"
              disabled={busy || tooMany || nothing}
              onClick={() => void put()}
            >
              {onPad ? "Put on the pad" : `Put into pattern ${pattern.name}`}
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Hears the recording; with clicks on its attacks where they have a say. */
function HearButton({
  sound,
  clicks,
}: {
  sound: ReturnType<typeof useRecordingSound>;
  clicks: boolean;
}) {
  return (
    <>
      <button className="btn btn-sm" onClick={sound.toggle}>
        {sound.at === null ? <Play size={14} /> : <Square size={14} />}
        {sound.at === null ? "Hear it" : "Stop"}
      </button>
      {clicks && (
        <SwitchField
          label="Clicks on the attacks"
          value={sound.clicks}
          onChange={sound.setClicks}
        />
      )}
    </>
  );
}

type Taking = Pick<RecordingWish, "takesTempo" | "asReference">;

/** What the pattern takes of a recording besides its notes. */
function PatternSwitches({ value, onChange }: { value: Taking; onChange(value: Taking): void }) {
  return (
    <>
      <SwitchField
        label="The project takes its tempo"
        value={value.takesTempo}
        className="min-h-7"
        onChange={(takesTempo) => onChange({ ...value, takesTempo })}
      />
      <SwitchField
        label="It plays behind the pattern"
        value={value.asReference}
        className="min-h-7"
        onChange={(asReference) => onChange({ ...value, asReference })}
      />
    </>
  );
}
