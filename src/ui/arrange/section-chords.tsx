"use client";
import { nanoid } from "nanoid";
import { useState } from "react";
import { type SongEntry, chordsOfText, metreOf, patternOf, textOfChords } from "@/core/score";
import { Popover } from "../controls/popover";
import { setSectionChords } from "../commands/song/chords";
import { useDesk, useSession } from "../session/context";

/** The chords of a section in place of its pattern's: typed, bar by bar. */
export function SectionChords({ entry }: { entry: SongEntry }) {
  const { store } = useDesk();
  const project = useSession((state) => state.project);
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const pattern = patternOf(project, entry.pattern);
  const metre = metreOf(project, pattern);
  const own = entry.chords !== undefined;
  const written = textOfChords(entry.chords ?? pattern.chords ?? [], metre);
  const put = (text: string) => {
    const read = chordsOfText(text, metre, project.key, () => nanoid(8));
    if ("wrong" in read) {
      setWrong(read.wrong);
      return;
    }
    setWrong(null);
    setSectionChords(store, entry.id, read.chords);
    setOpen(false);
  };
  return (
    <Popover
      label="Chords of the section"
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        setWrong(null);
      }}
      className="w-[320px] gap-2 p-3"
      trigger={
        <button
          className={`btn btn-ghost btn-xs h-6 min-h-0 px-1.5 font-normal ${own ? "text-primary" : ""}`}
          title="Chords that stand in for the pattern's in this section"
        >
          {own ? "Own chords" : "Chords"}
        </button>
      }
    >
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          put(String(new FormData(event.currentTarget).get("chords")));
        }}
      >
        <label className="flex flex-col gap-1">
          <span className="quiet">Bars with | between them, chords of one bar with a space</span>
          <input
            name="chords"
            className="input input-sm figure w-full"
            aria-invalid={wrong !== null}
            placeholder="Dm9 | Bbmaj7 C | Gm7"
            defaultValue={written}
          />
        </label>
        {wrong && (
          <p role="alert" className="text-error">
            {wrong}
          </p>
        )}
        <div className="flex gap-2">
          <button className="btn btn-primary btn-sm h-7 min-h-0">Set chords</button>
          {own && (
            <button type="button" className="btn btn-sm h-7 min-h-0" onClick={() => put("")}>
              The pattern&apos;s chords
            </button>
          )}
        </div>
      </form>
    </Popover>
  );
}
