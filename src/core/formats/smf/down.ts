import type { Note } from "../../score";
import { nth } from "../../base";

/** What waits behind the first note of a key; those before `first` have had their turn. */
interface Queue {
  list: Note[];
  first: number;
}

/**
 * Keys of a channel that are down, each with the notes that began there and have not ended, the first of them first.
 * Mostly there is one at a time, so that one is kept by itself.
 */
export class Down {
  private readonly notes: (Note | null)[] = new Array<Note | null>(128).fill(null);
  private more: Map<number, Queue> | null = null;

  begin(pitch: number, note: Note): void {
    if (this.notes[pitch] === null) {
      this.notes[pitch] = note;
      return;
    }
    const more = (this.more ??= new Map<number, Queue>());
    const queue = more.get(pitch);
    if (queue) queue.list.push(note);
    else more.set(pitch, { list: [note], first: 0 });
  }

  /** Takes the first note of a key out; null where there is none. */
  end(pitch: number): Note | null {
    const note = nth(this.notes, pitch);
    if (note === null) return null;
    this.notes[pitch] = this.more === null ? null : this.next(pitch);
    return note;
  }

  private next(pitch: number): Note | null {
    const queue = this.more?.get(pitch);
    const next = queue?.list[queue.first++];
    if (next) return next;
    this.more?.delete(pitch);
    return null;
  }

  count(pitch: number): number {
    if (this.notes[pitch] === null) return 0;
    const queue = this.more?.get(pitch);
    return 1 + (queue ? queue.list.length - queue.first : 0);
  }
}
