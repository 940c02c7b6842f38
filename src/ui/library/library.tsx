"use client";
import { FileUp, Moon, Plus, Sun } from "lucide-react";
import { useRouter } from "next/navigation";
import { useRef, useState, type DragEvent } from "react";
import { toast } from "sonner";
import { READABLE } from "@/core";
import { api } from "../saving/api";
import { importFile } from "../saving/import";
import { toggleTheme, useTheme } from "../controls/theme";
import { ProjectCard, type CardData } from "./project-card";

/** All projects as cards; new, open, rename, duplicate, delete with undo, import. */
export function Library({ cards }: { cards: CardData[] }) {
  const router = useRouter();
  const theme = useTheme();
  const picker = useRef<HTMLInputElement>(null);
  const [dropping, setDropping] = useState(false);
  const [busy, setBusy] = useState(false);

  /** Runs a request, tells of an error, and brings the cards up to date. */
  const attempt = async (work: () => Promise<unknown>) => {
    setBusy(true);
    try {
      await work();
    } catch (error) {
      toast.error((error as Error).message);
    } finally {
      setBusy(false);
      router.refresh();
    }
  };
  const create = () =>
    attempt(async () => {
      const { id } = await api.create("New project");
      router.push(`/p/${id}`);
    });
  const importFiles = (files: Iterable<File>) =>
    attempt(async () => {
      for (const file of files) await importFile(file);
    });
  const remove = (card: CardData) =>
    attempt(async () => {
      await api.remove(card.id);
      toast(`“${card.name}” was deleted`, {
        duration: 15_000,
        action: { label: "Undo", onClick: () => void attempt(() => api.restore(card.id)) },
      });
    });
  const rename = (card: CardData, name: string) =>
    attempt(async () => {
      const { revision, project } = await api.read(card.id);
      const { tempo, metre, key, song } = project;
      await api.change(card.id, revision, { head: { name, tempo, metre, key, song } });
    });

  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setDropping(false);
    void importFiles([...event.dataTransfer.files]);
  };
  return (
    <div
      className="min-h-dvh"
      onDragOver={(event) => {
        event.preventDefault();
        setDropping(true);
      }}
      onDragLeave={(event) => event.currentTarget === event.target && setDropping(false)}
      onDrop={onDrop}
    >
      <header className="flex items-center gap-3 border-b border-base-300 bg-base-100 px-8 py-3">
        <span className="text-[18px] font-bold tracking-tight">Hailstep</span>
        <span className="quiet mr-auto">beats and lines, a step at a time</span>
        <button
          className="btn btn-sm gap-2"
          onClick={() => picker.current?.click()}
          disabled={busy}
        >
          <FileUp size={15} /> Import
        </button>
        <button
          className="btn btn-primary btn-sm gap-2"
          onClick={() => void create()}
          disabled={busy}
        >
          <Plus size={15} /> New project
        </button>
        <button
          className="btn btn-ghost btn-sm px-2"
          aria-label={theme === "slate" ? "Light theme" : "Dark theme"}
          onClick={toggleTheme}
        >
          {theme === "slate" ? <Sun size={16} /> : <Moon size={16} />}
        </button>
        <input
          ref={picker}
          type="file"
          hidden
          multiple
          accept={READABLE.join(",")}
          aria-label="File to import"
          onChange={(event) => {
            void importFiles([...(event.target.files ?? [])]);
            event.target.value = "";
          }}
        />
      </header>
      <main className="mx-auto max-w-[1800px] px-8 py-6">
        <h1 className="mb-4 text-[15px] font-semibold">Projects</h1>
        {cards.length === 0 ? (
          <p className="quiet py-16 text-center">
            No projects yet. Start a new one, or drop a MIDI file or a project file here.
          </p>
        ) : (
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(22rem,1fr))] gap-5">
            {cards.map((card) => (
              <ProjectCard
                key={card.id}
                card={card}
                onRename={(name) => void rename(card, name)}
                onDuplicate={() => void attempt(() => api.duplicate(card.id))}
                onDelete={() => void remove(card)}
              />
            ))}
          </ul>
        )}
        <p className="quiet mt-6 text-[12px]">
          MIDI files and project files can be dropped anywhere on this page.
        </p>
      </main>
      {dropping && (
        <div className="pointer-events-none fixed inset-3 z-40 grid place-items-center rounded-2xl border-2 border-dashed border-primary bg-base-100/85 text-lg">
          Let go to import the file
        </div>
      )}
    </div>
  );
}
