import type { Note } from "../score/model";

/** A note that has begun and has no length yet, and whose it is. */
interface Begun<V> {
  note: Note;
  voice: V;
}

/** What waits behind the first note of a key; those before `first` have had their turn. */
interface Queue<V> {
  list: Begun<V>[];
  first: number;
}

/**
 * Keys that are down, each with the notes that began there and have not ended, the first of them first. Mostly there
 * is one at a time, so that one is kept by itself.
 */
export class Down<V> {
  private readonly notes: (Note | undefined)[] = [];
  private readonly voices: (V | undefined)[] = [];
  private readonly more = new Map<number, Queue<V>>();
  /** Whose the note was that was ended last. */
  voice: V | undefined;

  begin(key: number, note: Note, voice: V): void {
    if (!this.notes[key]) {
      this.notes[key] = note;
      this.voices[key] = voice;
      return;
    }
    const queue = this.more.get(key);
    if (queue) queue.list.push({ note, voice });
    else this.more.set(key, { list: [{ note, voice }], first: 0 });
  }

  /** Takes the first note of a key out, if there is one. */
  end(key: number): Note | undefined {
    const note = this.notes[key];
    if (!note) return undefined;
    this.voice = this.voices[key];
    const queue = this.more.size > 0 ? this.more.get(key) : undefined;
    const next = queue?.list[queue.first++];
    this.notes[key] = next?.note;
    if (next) this.voices[key] = next.voice;
    else if (queue) this.more.delete(key);
    return note;
  }

  count(key: number): number {
    if (!this.notes[key]) return 0;
    const queue = this.more.get(key);
    return 1 + (queue ? queue.list.length - queue.first : 0);
  }

  /** Keys that are down, in order. */
  get keys(): number[] {
    return [...this.notes.keys()].filter((key) => this.notes[key]);
  }
}
