"use client";
import { ArrowLeft, Download, RotateCcw, Upload } from "lucide-react";
import Link from "next/link";
import { useState } from "react";
import { toast } from "sonner";
import { ACTIONS } from "../actions/registry";
import { scoreOf } from "../controls/find";
import { useMounted } from "../controls/use-mounted";
import { FileButton } from "../controls/file-button";
import {
  resetSettings,
  settings,
  setSettings,
  settingsText,
  takeSettings,
} from "../person/settings";
import { applyLook } from "../person/theme";
import { KeyList } from "./key-list";
import { ROWS, type Row } from "./rows";
import { SearchField } from "../controls/search-field";

/** The largest file of settings that is read, in bytes. */
const LARGEST = 200_000;

/** All that a person can set, to search in. `from` is where one came from, and goes back to. */
export function SettingsPage({ from }: { from: string | null }) {
  const [typed, setTyped] = useState("");
  // The keys of a person are known in the browser alone.
  const mounted = useMounted();
  const fits = (thing: Parameters<typeof scoreOf>[0]) => scoreOf(thing, typed) > 0;
  const rows = ROWS.filter(fits);
  const actions = ACTIONS.filter((action) =>
    fits({ ...action, words: [...action.words, "key", "keys", "shortcut", "shortcuts"] }),
  );
  const groups = [...new Set(rows.map(({ group }) => group))];
  return (
    <div className="min-h-dvh">
      <header className="sticky top-0 z-20 flex items-center gap-3 border-b border-base-300 bg-base-100 px-8 py-2.5">
        <Link href={from ?? "/"} className="btn btn-ghost btn-sm gap-1 px-2 font-normal">
          <ArrowLeft size={15} /> {from ? "Back to the project" : "Library"}
        </Link>
        <h1 className="mr-auto text-[15px] font-semibold">Settings</h1>
        <SearchField
          label="Search settings and keys"
          className="w-64"
          value={typed}
          onChange={setTyped}
        />
      </header>
      <main className="mx-auto max-w-[860px] px-8 py-6 text-[13px]">
        {groups.map((group) => (
          <section key={group} aria-label={group} className="mb-6">
            <h2 className="mb-1 text-[15px] font-semibold">{group}</h2>
            <ul className="rounded-box border border-base-300 bg-base-100">
              {rows
                .filter((row) => row.group === group)
                .map((row) => (
                  <SettingRow key={row.label} row={row} />
                ))}
            </ul>
          </section>
        ))}
        {actions.length > 0 && (
          <section aria-label="Keys">
            <div className="mb-1 flex items-center gap-3">
              <h2 className="text-[15px] font-semibold">Keys</h2>
              <Link href="/keys" className="link">
                All keys on one page, to print
              </Link>
            </div>
            {mounted && <KeyList actions={actions} />}
          </section>
        )}
        {rows.length + actions.length === 0 && (
          <p className="quiet py-10 text-center">No matching setting</p>
        )}
        {typed.trim() === "" && <Kept />}
      </main>
    </div>
  );
}

function SettingRow({ row: { label, about, Field } }: { row: Row }) {
  return (
    <li className="flex min-h-11 items-center gap-4 border-b border-base-300 px-3 py-1 last:border-b-0">
      <span className="flex-1">
        <span className="block font-medium">{label}</span>
        <span className="quiet text-[12px]">{about}</span>
      </span>
      <Field />
    </li>
  );
}

/** What is kept where; settings as a file, and as they were at first. */
function Kept() {
  const read = async (file: File) => {
    const text = file.size > LARGEST ? "" : await file.text();
    const before = settings();
    const left = takeSettings(text);
    if (left === null) {
      toast.error(`${file.name} holds no settings of this application. Nothing was changed.`);
      return;
    }
    applyLook();
    const rest =
      left.length > 0 ? ` Not known here, and left: ${left.slice(0, 5).join(", ")}.` : "";
    toast(`Settings of ${file.name} are in use.${rest}`, undo(before));
  };
  return (
    <section aria-label="What is kept where" className="mt-6">
      <h2 className="mb-1 text-[15px] font-semibold">What is kept where</h2>
      <p className="quiet mb-3">
        Projects, sounds, presets and pinned grids are kept in the database of this machine’s
        Hailstep. What is set on this page is kept in this browser, as are edits that wait for the
        server. Nothing leaves this machine.
      </p>
      <div className="flex flex-wrap gap-2">
        <a
          className="btn btn-sm gap-2 font-normal"
          download="hailstep-settings.json"
          href="#settings-file"
          onClick={(event) => {
            const url = URL.createObjectURL(
              new Blob([settingsText()], { type: "application/json" }),
            );
            event.currentTarget.href = url;
            setTimeout(() => URL.revokeObjectURL(url), 10_000);
          }}
        >
          <Download size={14} /> Export settings
        </a>
        <FileButton
          file="File of settings"
          className="btn btn-sm gap-2 font-normal"
          accept=".json"
          onFiles={([file]) => void read(file)}
        >
          <Upload size={14} /> Import settings
        </FileButton>
        <button
          className="btn btn-sm gap-2 font-normal"
          onClick={() => {
            const before = settings();
            resetSettings();
            applyLook();
            toast("All settings are as at first", undo(before));
          }}
        >
          <RotateCcw size={14} /> Reset all settings
        </button>
      </div>
    </section>
  );
}

const undo = (before: ReturnType<typeof settings>) => ({
  duration: 15_000,
  action: {
    label: "Undo",
    onClick: () => {
      setSettings(before);
      applyLook();
    },
  },
});
