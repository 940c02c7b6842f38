import { LoaderCircle, Play, Square } from "lucide-react";
import type { Project } from "@/core/score";
import type { Listening } from "./listening";

interface Props {
  listening: Listening;
  id: string;
  /** What is heard, as it is called. */
  name: string;
  project(): Project | Promise<Project>;
  className?: string;
}

/** Plays the first bars of a project, and stops them. */
export function HearButton({ listening, id, name, project, className = "" }: Props) {
  const on = listening.id === id;
  return (
    <button
      type="button"
      className={`btn btn-circle btn-sm ${on ? "btn-primary" : "border-base-300 bg-base-100"} ${className}`}
      aria-label={on ? `Stop ${name}` : `Hear ${name}`}
      aria-pressed={on}
      title={on ? "Stop" : "Hear its first bars"}
      onClick={() => listening.toggle(id, project)}
    >
      {!on ? (
        <Play size={14} fill="currentColor" />
      ) : listening.sounding ? (
        <Square size={12} fill="currentColor" />
      ) : (
        <LoaderCircle size={15} className="animate-spin" />
      )}
    </button>
  );
}
