"use client";
import { FileUp, Moon, Plus, Settings2, Sun } from "lucide-react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState, type DragEvent } from "react";
import { toast } from "sonner";
import type { Project } from "@/core/score";
import { type ProjectCard as CardData, headOf } from "@/core/stored";
import { FileButton } from "../controls/file-button";
import { api, type LibraryView } from "../saving/api";
import { toggleTheme, useTheme } from "../person/theme";
import { CardGrid } from "./card-grid";
import { useListening } from "./listening";
import { NewProject } from "./new-project";
import { ProjectCard } from "./project-card";
import { useCards } from "./use-cards";
import { SearchField } from "../controls/search-field";

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
  const [view, setView] = useState<LibraryView>({ search: "", sort: "changed", deleted: false });
  const { card, total, deleted, failed, need, refresh } = useCards(first, view);
  const { busy, attempt, ...deeds } = useDeeds(refresh);
  const [dropping, setDropping] = useState(false);
  const [making, setMaking] = useState(false);
  const listening = useListening();
  const importFiles = (files: Iterable<File>) => void attempt(() => onFiles([...files]));
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setDropping(false);
    importFiles(event.dataTransfer.files);
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
      <Head accept={accept} busy={busy} onNew={() => setMaking(true)} onFiles={importFiles} />
      {making && (
        <NewProject
          accept={accept}
          busy={busy}
          onCreate={deeds.create}
          onFiles={importFiles}
          onClose={() => setMaking(false)}
        />
      )}
      <main className="mx-auto max-w-[1800px] px-8 py-6">
        <ViewBar view={view} onView={setView} total={total} deleted={deleted} />
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
          <p className="quiet py-16 text-center">{emptyText(view)}</p>
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
                  listening={listening}
                  onRename={(name) => deeds.rename(one, name)}
                  onDuplicate={() => deeds.duplicate(one)}
                  onDelete={() => deeds.remove(one)}
                  onRestore={view.deleted ? () => deeds.restore(one) : null}
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

function emptyText({ search, deleted }: LibraryView): string {
  if (search) return "No matching project";
  if (deleted) return "No deleted projects";
  return "No projects yet. Start a new one, or drop a MIDI file or a project file here.";
}

/** What can be done to projects: each runs its request, tells of an error, and brings the cards up to date. */
function useDeeds(refresh: () => Promise<unknown>) {
  const router = useRouter();
  const [busy, setBusy] = useState(false);
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
  const restore = (card: CardData) => void attempt(() => api.restore(card.id));
  return {
    busy,
    attempt,
    restore,
    create: (project: Project) =>
      void attempt(async () => {
        const { id } = await api.create({ project });
        router.push(`/p/${id}`);
      }),
    duplicate: (card: CardData) => void attempt(() => api.duplicate(card.id)),
    remove: (card: CardData) =>
      void attempt(async () => {
        await api.remove(card.id);
        toast(`“${card.name}” was deleted`, {
          duration: 15_000,
          action: { label: "Undo", onClick: () => restore(card) },
        });
      }),
    rename: (card: CardData, name: string) =>
      void attempt(async () => {
        const { revision, stamp, project } = await api.read(card.id);
        const head = { ...headOf(project), name };
        await api.change(card.id, { revision, stamp }, { head });
      }),
  };
}

interface HeadProps {
  accept: string;
  busy: boolean;
  onNew(): void;
  onFiles(files: Iterable<File>): void;
}

/** The bar over the cards: import, new project, theme. */
function Head({ accept, busy, onNew, onFiles }: HeadProps) {
  const theme = useTheme();
  return (
    <header className="flex items-center gap-3 border-b border-base-300 bg-base-100 px-8 py-3">
      <span className="text-[18px] font-bold tracking-tight">Hailstep</span>
      <span className="quiet mr-auto">beats and lines, a step at a time</span>
      <FileButton
        file="File to import"
        className="btn btn-sm gap-2"
        disabled={busy}
        multiple
        accept={accept}
        onFiles={onFiles}
      >
        <FileUp size={15} /> Import
      </FileButton>
      <button className="btn btn-primary btn-sm gap-2" onClick={onNew} disabled={busy}>
        <Plus size={15} /> New project
      </button>
      <Link
        href="/settings"
        className="btn btn-ghost btn-sm px-2"
        aria-label="Settings"
        title="Settings: keys, look, new projects, recording"
      >
        <Settings2 size={16} />
      </Link>
      <button
        className="btn btn-ghost btn-sm px-2"
        aria-label={theme === "slate" ? "Light theme" : "Dark theme"}
        onClick={toggleTheme}
      >
        {theme === "slate" ? <Sun size={16} /> : <Moon size={16} />}
      </button>
    </header>
  );
}

interface ViewProps {
  view: LibraryView;
  onView(change: (view: LibraryView) => LibraryView): void;
  total: number;
  deleted: number;
}

/** Which projects are shown, in what order. */
function ViewBar({ view, onView, total, deleted }: ViewProps) {
  const [typed, setTyped] = useState("");
  useEffect(() => {
    const search = typed.trim();
    const timer = setTimeout(
      () => onView((old) => (old.search === search ? old : { ...old, search })),
      PAUSE_MS,
    );
    return () => clearTimeout(timer);
  }, [typed, onView]);
  return (
    <div className="mb-4 flex flex-wrap items-center gap-3">
      <h1 className="mr-auto text-[15px] font-semibold">
        {view.deleted ? "Deleted projects" : "Projects"}{" "}
        <span className="figure quiet font-normal" aria-live="polite">
          {total.toLocaleString("en-GB")}
        </span>
      </h1>
      <SearchField
        label="Search projects"
        placeholder="Search"
        value={typed}
        longest={100}
        onChange={setTyped}
      />
      <label className="flex items-center gap-2">
        <span className="quiet">In order of</span>
        <select
          className="select select-sm w-36"
          value={view.sort}
          onChange={(event) => {
            const sort = event.target.value;
            onView((old) => ({ ...old, sort }));
          }}
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
          onClick={() => onView((old) => ({ ...old, deleted: !old.deleted }))}
        >
          {view.deleted ? "Back to the projects" : `Deleted, ${deleted.toLocaleString("en-GB")}`}
        </button>
      )}
    </div>
  );
}
