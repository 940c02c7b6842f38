import {
  type Note,
  type PartAddress,
  type Project,
  changePart,
  pitched,
  sortNotes,
} from "../score";

/** Adds notes to a part. */
export function addNotes(project: Project, place: PartAddress, notes: readonly Note[]): Project {
  if (notes.length === 0) return project;
  return changePart(project, place, (part) => ({
    ...part,
    notes: sortNotes([...part.notes, ...notes]),
  }));
}

/** Takes notes away by id. */
export function deleteNotes(
  project: Project,
  place: PartAddress,
  ids: ReadonlySet<string>,
): Project {
  return changePart(project, place, (part) => {
    const notes = part.notes.filter((note) => !ids.has(note.id));
    return notes.length === part.notes.length ? part : { ...part, notes };
  });
}

/** Changes the notes with these ids by a function; held to the ranges of the model by the caller. */
export function changeNotes(
  project: Project,
  place: PartAddress,
  ids: ReadonlySet<string>,
  change: (note: Note) => Note,
): Project {
  return changePart(project, place, (part) => {
    let touched = false;
    const notes = part.notes.map((note) => {
      if (!ids.has(note.id)) return note;
      const after = pitched(note, change(note));
      touched ||= after !== note;
      return after;
    });
    return touched ? { ...part, notes: sortNotes(notes) } : part;
  });
}

/** Puts other notes in the place of all notes of a part. */
export function setNotes(project: Project, place: PartAddress, notes: readonly Note[]): Project {
  return changePart(project, place, (part) => ({ ...part, notes: sortNotes(notes) }));
}
