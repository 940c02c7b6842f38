"use client";
import { Bookmark, X } from "lucide-react";
import { useState } from "react";
import { toast } from "sonner";
import { LIMITS } from "@/core/score";
import { removePreset, savePreset, useUser } from "../../saving/user";

interface Props<T extends object> {
  /** What they are values of; see `Preset`. */
  of: string;
  /** Those that ship with the app. */
  shipped?: readonly { name: string; params: T }[];
  params: T;
  /** What the button and the field are called. */
  label?: string;
  onTake(params: T, name: string): void;
  /** One of the user's own is pointed at, or none any more. */
  onPoint?(params: T | null): void;
}

/** Values under a name, ours and the user's own: take one, keep these under a name, delete. */
export function Presets<T extends object>({
  of: transform,
  shipped = [],
  params,
  label = "Presets",
  onTake,
  onPoint,
}: Props<T>) {
  const all = useUser((user) => user.presets);
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const mine = all.filter((preset) => preset.transform === transform);
  const attempt = async (work: () => Promise<void>) => {
    try {
      await work();
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  const save = () =>
    attempt(async () => {
      const kept = name.trim();
      if (!kept) return;
      await savePreset(transform, kept, { ...params } as Record<string, unknown>);
      setName("");
      toast.success(`Saved as “${kept}”`);
    });
  return (
    <div className="mt-1">
      <button
        className="quiet flex min-h-6 items-center gap-1 rounded px-1 text-[12px]"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <Bookmark size={11} /> {label}
        {shipped.length + mine.length > 0 ? `, ${shipped.length + mine.length}` : ""}
      </button>
      {open && (
        <div className="mt-1 flex flex-col gap-1">
          <ul className="flex flex-wrap gap-1" aria-label={label}>
            {shipped.map((preset) => (
              <li key={preset.name}>
                <button
                  className="h-[24px] rounded-full bg-base-200 px-2.5 hover:bg-base-300"
                  onClick={() => onTake(preset.params, preset.name)}
                >
                  {preset.name}
                </button>
              </li>
            ))}
            {mine.map((preset) => (
              <li
                key={preset.id}
                className="flex items-center rounded-full border border-base-300"
                onPointerEnter={() => onPoint?.(preset.params as T)}
                onPointerLeave={() => onPoint?.(null)}
                onFocus={() => onPoint?.(preset.params as T)}
                onBlur={() => onPoint?.(null)}
              >
                <button
                  className="h-6 pl-2.5"
                  onClick={() => {
                    onPoint?.(null);
                    onTake(preset.params as T, preset.name);
                  }}
                >
                  {preset.name}
                </button>
                <button
                  className="grid h-6 w-6 place-items-center"
                  aria-label={`Delete preset ${preset.name}`}
                  onClick={() => void attempt(() => removePreset(preset.id))}
                >
                  <X size={11} />
                </button>
              </li>
            ))}
          </ul>
          <form
            className="flex gap-1"
            onSubmit={(event) => {
              event.preventDefault();
              void save();
            }}
          >
            <input
              className="input input-xs min-w-0 flex-1"
              placeholder="Name for these values"
              aria-label="Name for these values"
              maxLength={LIMITS.name}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <button className="btn btn-xs" disabled={name.trim() === ""}>
              Save
            </button>
          </form>
        </div>
      )}
    </div>
  );
}
