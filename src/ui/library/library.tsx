"use client";
import { FileUp, Moon, Plus, Search, Sun } from "lucide-react";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState, type DragEvent } from "react";
import { toast } from "sonner";
import { type ProjectCard as CardData, headOf } from "@/core/stored";
import { api, type LibraryView } from "../saving/api";
import { toggleTheme, useTheme } from "../person/theme";
import { CardGrid } from "./card-grid";
import { ProjectCard } from "./project-card";
import { useCards } from "./use-cards";

interface Props {
  /** The first page, as the server has it when the page is made. */
  first: { cards: readonly CardData[]; total: number; deleted: number };
  /** What files can be given to it. */
  accept: string;
  /** Files that were given to it; resolves when all were taken or left. */
  onFiles(files: File[]): Promise<void>;
}

/** A search is sent when typing pauses for so long. */
const PAUSE_MS = 150;

/** All projects as cards; new, open, rename, duplicate, delete with undo, import, export of all. */
export function Library({ first, accept, onFiles }: Props) {
  const [typed, setTyped] = useState("");
  const [view, setView] = useState<LibraryView>({ search: "", sort: "changed", deleted: false });
  const { card, total, deleted, failed, need, refresh } = useCards(first, view);
  useEffect(() => {
    const timer = setTimeout(
      () => setView((v) => (v.search === typed.trim() ? v : { ...v, search: typed.trim() })),
      PAUSE_MS,
    );
    return () => clearTimeout(timer);
  }, [typed]);

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
      void refresh();
    }
  };
  const create = () =>
    attempt(async () => {
      const { id } = await api.create("New project");
      router.push(`/p/${id}`);
    });
  const importFiles = (files: Iterable<File>) => attempt(() => onFiles([...files]));
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
      const { revision, stamp, project } = await api.read(card.id);
      const head = { ...headOf(project), name };
      await api.change(card.id, { revision, stamp }, { head });
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
          accept={accept}
          aria-label="File to import"
          onChange={(event) => {
            void importFiles([...(event.target.files ?? [])]);
            event.target.value = "";
          }}
        />
      </header>
      <main className="mx-auto max-w-[1800px] px-8 py-6">
        <div className="mb-4 flex flex-wrap items-center gap-3">
          <h1 className="mr-auto text-[15px] font-semibold">
            {view.deleted ? "Deleted projects" : "Projects"}{" "}
            <span className="figure quiet font-normal" aria-live="polite">
              {total.toLocaleString("en-GB")}
            </span>
          </h1>
          <label className="input input-sm w-56 gap-2">
            <Search size={14} aria-hidden />
            <input
              type="search"
              className="outline-none!"
              aria-label="Search projects"
              placeholder="Search"
              value={typed}
              maxLength={100}
              onChange={(event) => setTyped(event.target.value)}
            />
          </label>
          <label className="flex items-center gap-2">
            <span className="quiet">In order of</span>
            <select
              className="select select-sm w-36"
              value={view.sort}
              onChange={(event) => setView({ ...view, sort: event.target.value })}
            >
              <option value="changed">last change</option>
              <option value="name">name</option>
              <option value="tempo">tempo</option>
            </select>
          </label>
          {(deleted > 0 || view.deleted) && (
            <button
              className="btn btn-ghost btn-sm"
              aria-pressed={view.deleted}
              onClick={() => setView({ ...view, deleted: !view.deleted })}
            >
              {view.deleted
                ? "Back to the projects"
                : `Deleted, ${deleted.toLocaleString("en-GB")}`}
            </button>
          )}
        </div>
        {failed && (
          <p role="alert" className="mb-4 text-error">
            {failed}{" "}
            <button className="link" onClick={() => void refresh()}>
              Try again
            </button>
          </p>
        )}
        {view.deleted && (
          <p className="quiet mb-4 text-[12px]">
            A deleted project can be brought back for 30 days, then it is cleared away, and so are
            sounds that no project uses.
          </p>
        )}
        {total === 0 && !failed ? (
          <p className="quiet py-16 text-center">
            {view.search
              ? "No matching project"
              : view.deleted
                ? "No deleted projects"
                : "No projects yet. Start a new one, or drop a MIDI file or a project file here."}
          </p>
        ) : (
          <CardGrid
            count={total}
            onRange={need}
            render={(i) => {
              const one = card(i);
              return one ? (
                <ProjectCard
                  key={one.id}
                  card={one}
                  onRename={(name) => void rename(one, name)}
                  onDuplicate={() => void attempt(() => api.duplicate(one.id))}
                  onDelete={() => void remove(one)}
                  onRestore={view.deleted ? () => void attempt(() => api.restore(one.id)) : null}
                />
              ) : (
                <div key={i} className="rounded-box h-64 border border-base-300" aria-hidden />
              );
            }}
          />
        )}
        <p className="quiet mt-6 text-[12px]">
          MIDI files and project files can be dropped anywhere on this page.{" "}
          <a className="link" href="/api/export" download>
            Export all projects as one zip file
          </a>
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
