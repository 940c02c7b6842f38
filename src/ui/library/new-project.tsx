"use client";
import { FileUp, Shuffle, X } from "lucide-react";
import { Dialog, RadioGroup } from "radix-ui";
import { useMemo, useState, type FormEvent } from "react";
import { SOUNDS } from "@/audio/sounds";
import { packPicture, thumbnail } from "@/core/analysis";
import { must, nth } from "@/core/base";
import { DRUM_STYLES, STARTS, startOf, type Start } from "@/core/generate";
import { LIMITS, type Project } from "@/core/score";
import { FileButton } from "../controls/file-button";
import { settings } from "../person/settings";
import { HearButton } from "./hear-button";
import { type Listening, useListening } from "./listening";
import { Picture } from "./picture";
import { PLACE_NAMES } from "./place-names";

const WORDS: Readonly<Record<Start, [label: string, about: string]>> = {
  empty: ["An empty sheet", "A kit, a bass, two bars"],
  beat: ["A beat", "Two bars in a style, to change"],
  band: ["A beat with chords and bass", "Four bars in a key, to change"],
};
const SEEDS = 100_000;
const newSeed = () => Math.floor(Math.random() * SEEDS);

/** The kit that new projects have; ours where it is not known any more. */
function kitOf(id: string) {
  const kits = SOUNDS.filter(({ kind }) => kind === "drums");
  return kits.find((kit) => kit.id === id) ?? nth(kits, 0);
}

interface Props {
  accept: string;
  busy: boolean;
  onCreate(project: Project): void;
  onFiles(files: Iterable<File>): void;
  onClose(): void;
}

/** What a new project begins with: each with its picture, heard before it is taken. */
export function NewProject({ accept, busy, onCreate, onFiles, onClose }: Props) {
  const [seed, setSeed] = useState(newSeed);
  const [name, setName] = useState<string>(() => nth(PLACE_NAMES, newSeed() % PLACE_NAMES.length));
  const [style, setStyle] = useState(() => nth(DRUM_STYLES, 0).id);
  const [start, setStart] = useState<Start>("empty");
  const listening = useListening();
  const made = useMemo(() => {
    const { newKit, newTempo } = settings();
    const same = { style, seed, name: "", kit: kitOf(newKit), tempo: newTempo };
    return STARTS.map((one) => ({ start: one, project: startOf({ ...same, start: one }) }));
  }, [style, seed]);
  const create = (event: FormEvent) => {
    event.preventDefault();
    listening.stop();
    const { project } = must(made.find((one) => one.start === start));
    onCreate({ ...project, name: name.trim() || "New project" });
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="rounded-box fixed top-1/2 left-1/2 z-50 max-h-[92dvh] w-[820px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-base-300 bg-base-100 p-5 text-[13px] shadow-xl"
        >
          <div className="mb-3 flex items-center justify-between">
            <Dialog.Title className="text-[15px] font-semibold">
              What does it begin with?
            </Dialog.Title>
            <Dialog.Close asChild>
              <button className="btn btn-ghost btn-xs px-1" aria-label="Close">
                <X size={15} />
              </button>
            </Dialog.Close>
          </div>
          <form onSubmit={create}>
            <RadioGroup.Root
              aria-label="What it begins with"
              className="grid grid-cols-3 gap-3 max-[640px]:grid-cols-1"
              value={start}
              onValueChange={(next) => setStart(next as Start)}
            >
              {made.map((one) => (
                <StartCard key={one.start} {...one} listening={listening} />
              ))}
            </RadioGroup.Root>
            <div className="mt-3 flex h-8 items-center gap-3">
              <label className="flex items-center gap-2">
                <span className="quiet">Style</span>
                <select
                  className="select select-sm w-44"
                  value={style}
                  disabled={start === "empty"}
                  onChange={(event) => {
                    listening.stop();
                    setStyle(event.target.value);
                  }}
                >
                  {DRUM_STYLES.map(({ id, label }) => (
                    <option key={id} value={id}>
                      {label}
                    </option>
                  ))}
                </select>
              </label>
              <button
                type="button"
                className="btn btn-sm gap-2 font-normal"
                disabled={start === "empty"}
                title="Another beat, other chords, another bass"
                onClick={() => {
                  listening.stop();
                  setSeed(newSeed());
                }}
              >
                <Shuffle size={14} /> Another
              </button>
            </div>
            <div className="mt-4 flex flex-wrap items-center gap-3 border-t border-base-300 pt-4">
              <label className="flex flex-1 items-center gap-2">
                <span className="quiet">Name</span>
                <input
                  className="input input-sm w-full max-w-64 font-semibold"
                  value={name}
                  maxLength={LIMITS.name}
                  onChange={(event) => setName(event.target.value)}
                />
              </label>
              <FileButton
                type="button"
                file="File or recording to begin with"
                className="btn btn-ghost btn-sm gap-2 font-normal"
                accept={accept}
                onFiles={(files) => {
                  onClose();
                  onFiles(files);
                }}
              >
                <FileUp size={14} /> From a file or a recording
              </FileButton>
              <button type="submit" className="btn btn-primary btn-sm" disabled={busy} autoFocus>
                Start
              </button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

interface CardProps {
  start: Start;
  /** What it would be. */
  project: Project;
  listening: Listening;
}

/** One thing to begin with: its picture, to choose and to hear. */
const StartCard = ({ start, project, listening }: CardProps) => (
  <div className="relative">
    <RadioGroup.Item
      value={start}
      aria-label={WORDS[start][0]}
      className="rounded-box w-full cursor-pointer overflow-hidden border-2 border-base-300 text-left hover:border-base-content data-[state=checked]:border-primary"
    >
      <Picture picture={packPicture(thumbnail(project))} />
      <span className="block px-3 py-2">
        <span className="block font-semibold">{WORDS[start][0]}</span>
        <span className="quiet text-[12px]">{WORDS[start][1]}</span>
      </span>
    </RadioGroup.Item>
    {start !== "empty" && (
      <HearButton
        listening={listening}
        id={start}
        name={WORDS[start][0].toLowerCase()}
        project={() => project}
        className="absolute top-2 right-2"
      />
    )}
  </div>
);
