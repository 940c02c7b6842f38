"use client";
import { Dices } from "lucide-react";
import { MAX_VARIANTS } from "@/core/score";
import { KITS } from "@/audio/kits/registry";
import { SAMPLE_TYPES } from "../../commands/files/sample";
import { FileButton } from "../../controls/file-button";
import { ValueField } from "../../controls/value-field";
import type { PadParts } from "./pad-parts";

/** The file a pad plays, if it plays one. */
export function PadSample({ pad, shape, take }: PadParts & { take(file?: File | null): void }) {
  return (
    <div className="flex items-center gap-2">
      <span className="min-w-0 flex-1 truncate" title={pad.sample?.name} data-testid="sample-name">
        {pad.sample ? pad.sample.name : <span className="quiet">Drop a WAV, FLAC, MP3 or OGG</span>}
      </span>
      {pad.sample && (
        <button className="btn btn-xs" onClick={() => shape("Kit’s own sound", { sample: null })}>
          Kit’s own
        </button>
      )}
      <FileButton
        file="Sample file for the pad"
        className="btn btn-xs"
        accept={SAMPLE_TYPES}
        onFiles={([file]) => take(file)}
      >
        Choose a file
      </FileButton>
    </div>
  );
}

/** The kit that a pad's own sound is from. */
export function PadKit({ pad, shape, kit }: PadParts & { kit: string }) {
  return (
    <div className="flex items-center gap-2">
      <label className="flex min-w-0 flex-1 items-center gap-2">
        <span className="quiet w-[76px] shrink-0">From</span>
        <select
          className="select select-xs min-w-0 flex-1"
          aria-label="Kit this pad is from"
          value={pad.from ?? ""}
          onChange={(event) =>
            shape("Pad of another kit", { from: event.target.value, variant: 0 })
          }
        >
          <option value="">its own kit</option>
          {KITS.filter(({ id }) => id !== kit).map(({ id, label }) => (
            <option key={id} value={id}>
              {label}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

/** Other sounds of the same voice, its values drawn anew. */
export function PadVariants({ pad, shape, onNew }: PadParts & { onNew(): void }) {
  return (
    <div className="flex items-center gap-1.5">
      <button
        className="btn btn-xs gap-1"
        title="Another sound from the same voice, its values drawn anew"
        onClick={() => {
          shape("Another like this", { variant: nextVariant(pad.variant) }, "variant");
          onNew();
        }}
      >
        <Dices size={13} /> Another like this
      </button>
      {pad.variant !== undefined && (
        <>
          <ValueField
            label="Which like it"
            className="w-14 text-right"
            value={pad.variant}
            min={1}
            max={MAX_VARIANTS}
            format={(value) => `no. ${value}`}
            onChange={(variant) => shape("Another like this", { variant })}
          />
          <button className="btn btn-xs" onClick={() => shape("The pad itself", { variant: 0 })}>
            Itself
          </button>
        </>
      )}
    </div>
  );
}

/** The next of a pad's likes. */
const nextVariant = (variant = 0) => (variant % MAX_VARIANTS) + 1;
