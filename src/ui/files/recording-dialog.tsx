"use client";
import { Play, Square } from "lucide-react";
import { Dialog } from "radix-ui";
import { useRef, useState } from "react";
import { type Bpm, type MidiPitch, type Seconds, plural } from "@/core/base";
import { padName } from "@/core/pitch";
import { metreOf, patternOf, trackOf } from "@/core/score";
import { PLAIN_SENSITIVITY } from "@/core/listen";
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
} from "../commands/files/listening";
import { freePads } from "../commands/tracks/lanes";
import { Choice } from "../controls/choice";
import { SwitchField } from "../controls/labelled";
import { SliderField } from "../controls/slider-field";
import { ValueField } from "../controls/value-field";
import { useDesk, useSession } from "../session/context";
import { DialogHead } from "./dialog-head";
import { RecordingPicture } from "./recording-picture";
import { Said } from "./option-text";
import { useRecordingSound } from "./use-recording-sound";

const ABOUT: Readonly<Record<Becomes, { label: string; about: string }>> = {
  hits: { label: "Hits on lanes", about: "Kick, snare and hat by their sound" },
  pad: { label: "One pad", about: "The whole of it, struck as one sound" },
  slices: { label: "Slices on pads", about: "The recording itself, cut at its attacks" },
  line: { label: "A single line", about: "Sung or played, as notes" },
  rhythm: { label: "A rhythm", about: "Notes without a pitch yet" },
};

const sure = (certainty: number) =>
  certainty > 0.8 ? "certain" : certainty > 0.4 ? "likely" : "a guess";

interface Props {
  listening: Listening;
  onClose(): void;
}

/** A recording shown with what was heard in it, to be corrected, heard, and put into the pattern. */
export function RecordingDialog({ listening, onClose }: Props) {
  const { store } = useDesk();
  const project = useSession((state) => state.project);
  const patternId = useSession((state) => state.pattern);
  const current = useSession((state) => state.track);
  const pattern = patternOf(project, patternId);
  const metre = metreOf(project, pattern);
  const [becomes, setBecomes] = useState<Becomes>("hits");
  const [sensitivity, setSensitivity] = useState(PLAIN_SENSITIVITY);
  const [times, setTimes] = useState<readonly Seconds[]>(listening.began.times);
  const [found, setFound] = useState<Hits>(listening.began);
  const [laid, setLaid] = useState<{ tempo: Bpm; first: Seconds }>({
    tempo: listening.began.beat?.tempo ?? project.tempo,
    first: listening.began.beat?.first ?? 0,
  });
  /** Whether tempo and first bar were corrected by hand: they then stay. */
  const [byHand, setByHand] = useState(false);
  const [chosen, setChosen] = useState(-1);
  const [track, setTrack] = useState("");
  /** A pad that is there, to be taken over. */
  const [chosenPad, setChosenPad] = useState<MidiPitch | null>(null);
  const [takesTempo, setTakesTempo] = useState(() => isEmpty(project));
  const [behind, setBehind] = useState(true);
  const [busy, setBusy] = useState(false);
  const sound = useRecordingSound(listening, becomes === "pad" ? NO_TIMES : times);
  const asked = useRef(0);

  /** What is at these times; the last question asked counts. */
  const hear = async (next: readonly Seconds[], keep: boolean) => {
    const turn = ++asked.current;
    setTimes(next);
    try {
      const hits = await listening.hits(next, metre);
      if (turn !== asked.current) return;
      setFound(hits);
      if (!keep && hits.beat) setLaid({ tempo: hits.beat.tempo, first: hits.beat.first });
    } catch (error) {
      notListened(listening.name, error);
    }
  };
  const listen = async (value: number) => {
    setBusy(true);
    try {
      await hear(await listening.onsets(value), byHand);
    } catch (error) {
      notListened(listening.name, error);
    } finally {
      setBusy(false);
    }
  };

  const onPad = becomes === "pad";
  const kind = becomes === "line" || becomes === "rhythm" ? "melody" : "drums";
  const tracks = becomes === "slices" ? [] : project.tracks.filter((one) => one.kind === kind);
  const target = tracks.some(({ id }) => id === track) ? track : "";
  const bars = barsOf(project, patternId, listening.length, laid);
  const pads = target ? trackOf(project, target).lanes : [];
  // From the kick on, where kits begin.
  const free = freePads(project, target).find((pitch) => pitch >= 36) ?? null;
  const taken = pads.find(({ pitch }) => pitch === chosenPad) ?? (free === null ? pads[0] : null);
  const pad = taken?.pitch ?? free!;
  const tooMany = becomes === "slices" && times.length > MAX_SLICES;
  const put = async () => {
    setBusy(true);
    try {
      if (becomes === "pad") {
        if (await putOnPad(store, listening, { track: target, pitch: pad })) return onClose();
        return setBusy(false);
      }
      const wish = { becomes, times, hits: found.hits, ...laid, track: target, takesTempo, behind };
      if (await putRecording(store, listening, wish)) return onClose();
    } catch (error) {
      notListened(listening.name, error);
    }
    setBusy(false);
  };
  const lay = (next: typeof laid) => {
    setByHand(true);
    setLaid(next);
  };
  const others = (found.beat ? [laid.tempo / 2, laid.tempo * 2] : []).filter(
    (tempo) => tempo >= 30 && tempo <= 300,
  );

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
              hits={becomes === "hits" ? found.hits : NONE}
              {...laid}
              metre={metre}
              chosen={chosen}
              playhead={sound.at}
              onChosen={setChosen}
              onTimes={(next, index) => {
                setChosen(index);
                void hear(next, true);
              }}
              onLaid={lay}
            />
          </div>
          {!onPad && (
            <p className="quiet text-[11.5px]">
              Click to add an attack, double click one to delete it, drag it to move it. Drag the
              first bar line to where the one is, and a later one to stretch the bars.
            </p>
          )}
          <div className="grid grid-cols-2 gap-x-6 gap-y-1">
            {!onPad && (
              <>
                <div className="flex items-center gap-2">
                  <span className="quiet w-[88px]">Tempo</span>
                  <ValueField
                    label="Tempo of the recording"
                    value={laid.tempo}
                    min={20}
                    max={400}
                    step={0.1}
                    className="w-20 font-medium"
                    format={(value) => `${Number(value.toFixed(2))}`}
                    onChange={(tempo) => lay({ ...laid, tempo })}
                  />
                  <span
                    className="quiet"
                    title="How far the next likely tempo is behind"
                    data-testid="certainty"
                  >
                    {byHand ? "by hand" : found.beat ? sure(found.beat.certainty) : "not found"}
                  </span>
                  {others.map((tempo) => (
                    <button
                      key={tempo}
                      className="btn btn-ghost btn-xs px-1.5"
                      aria-label={`Take ${Number(tempo.toFixed(2))} BPM`}
                      onClick={() => lay({ ...laid, tempo })}
                    >
                      {Number(tempo.toFixed(2))}
                    </button>
                  ))}
                </div>
                <SliderField
                  label="Sensitivity"
                  value={sensitivity}
                  reset={PLAIN_SENSITIVITY}
                  min={0}
                  max={100}
                  format={(value) => `${value} %`}
                  onChange={(value) => {
                    setSensitivity(value);
                    setChosen(-1);
                    void listen(value);
                  }}
                />
                <div className="flex items-center gap-2">
                  <span className="quiet w-[88px]">First bar at</span>
                  <ValueField
                    label="First bar"
                    value={laid.first}
                    min={0}
                    max={Math.floor(listening.length * 1000) / 1000}
                    step={0.001}
                    className="w-20 font-medium"
                    format={(value) => `${value.toFixed(3)} s`}
                    onChange={(first) => lay({ ...laid, first })}
                  />
                </div>
              </>
            )}
            <label className="flex items-center gap-2">
              <span className="quiet w-[88px]">Onto</span>
              <select
                className="select select-xs min-w-0 flex-1"
                aria-label="Onto which track"
                value={target}
                onChange={(event) => setTrack(event.target.value)}
              >
                <option value="">a new track</option>
                {tracks.map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                    {id === current ? " (current)" : ""}
                  </option>
                ))}
              </select>
            </label>
            {onPad ? (
              <label className="flex min-h-7 items-center gap-2">
                <span className="quiet w-[88px]">Pad</span>
                <select
                  className="select select-xs min-w-0 flex-1"
                  aria-label="Onto which pad"
                  value={taken?.pitch ?? ""}
                  onChange={(event) =>
                    setChosenPad(event.target.value === "" ? null : Number(event.target.value))
                  }
                >
                  {free !== null && <option value="">a new lane, {padName(free)}</option>}
                  {pads.map(({ id, name, pitch }) => (
                    <option key={id} value={pitch}>
                      {name}, whose sound it takes over
                    </option>
                  ))}
                </select>
              </label>
            ) : (
              <>
                <SwitchField
                  label="The project takes its tempo"
                  value={takesTempo}
                  className="min-h-7"
                  onChange={setTakesTempo}
                />
                <SwitchField
                  label="It plays behind the pattern"
                  value={behind}
                  className="min-h-7"
                  onChange={setBehind}
                />
              </>
            )}
          </div>
          <div className="flex items-center gap-2">
            <button className="btn btn-sm" onClick={sound.toggle}>
              {sound.at === null ? <Play size={14} /> : <Square size={14} />}
              {sound.at === null ? "Hear it" : "Stop"}
            </button>
            {!onPad && (
              <SwitchField
                label="Clicks on the attacks"
                value={sound.clicks}
                onChange={sound.setClicks}
              />
            )}
            <p className="min-w-0 flex-1 text-right text-[12px]" role="alert">
              {tooMany &&
                `${times.length} slices are more than ${MAX_SLICES} lanes hold: make it less sensitive`}
            </p>
            <button
              className="btn btn-primary btn-sm"
              disabled={busy || tooMany || (becomes !== "line" && !onPad && times.length === 0)}
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

const NONE: Hits["hits"] = [];
const NO_TIMES: readonly number[] = [];
