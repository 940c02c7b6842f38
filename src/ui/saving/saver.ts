import { clamp, nth } from "@/core/base";
import type { Project } from "@/core/score";
import {
  type StoredProject,
  applyChange,
  applyPackedChange,
  diffProjects,
  mergeProjects,
  packedDiff,
  returning,
} from "@/core/stored";
import { ANSWERS, isAnswer } from "./answers";
import { RequestError, api, type Save } from "./api";
import { firstPortion, sentChange } from "./portions";
import { dropUnsent, keepLast, keepUnsent, unsentOf } from "./outbox";

/**
 * `opening`: looking for edits an earlier page left. `waiting`: the server does not answer, edits are kept
 * here. `refused`: it said no, they are kept too. `forked`: an older file was put back on the server, and
 * somebody has to say which of the two stands.
 */
export type SaveState = "opening" | "saved" | "saving" | "waiting" | "refused" | "forked";

interface Host {
  project(): Project;
  /** Puts a merged project in place of the current one, outside the history. */
  replace(project: Project): void;
  state(state: SaveState, message?: string): void;
  /** Tracks that were deleted in one tab and changed in another, and came back. */
  returned(names: readonly string[]): void;
  /** The server's copy does not come from what is here: `settleFork` says which stands. */
  forked(): void;
}

/** Edits that come one after another are sent together, but none waits longer than this. */
const PAUSE_MS = 150;
const LONGEST_PAUSE_MS = 1000;
const RETRY_MS = [400, 800, 1600, 3000];

/**
 * Saves a project as it changes: only what differs from what the server has, with the revision it
 * was made on. A stale revision is merged and sent again; no answer is tried again; and until the
 * server has it, every edit also lies in the browser's own store.
 */
export class Saver {
  private confirmed: Save & { project: Project };
  /** What the server has, where it is not what this page was made on. */
  private fork: StoredProject | null = null;
  /** Since when something is unsent. */
  private unsentSince: number | null = null;
  private readonly id: string;
  private readonly key: string;
  private readonly channel: BroadcastChannel;
  private pickedUp: string[] = [];
  private keepTimer: number | null = null;
  private sendTimer: ReturnType<typeof setTimeout> | null = null;
  private sending = false;
  private failures = 0;
  /** What the server said no to: it is not asked again until something changes. */
  private refused: Project | null = null;
  private closed = false;

  constructor(
    stored: StoredProject,
    private readonly host: Host,
    page: string,
  ) {
    this.id = stored.id;
    this.key = `${stored.id}/${page}`;
    this.confirmed = stored;
    this.channel = new BroadcastChannel(`hailstep/${stored.id}`);
    this.channel.onmessage = ({ data }: MessageEvent<{ revision: number }>) => {
      if (data.revision > this.confirmed.revision && !this.sending) void this.pull();
    };
    window.addEventListener("pagehide", this.keepLast);
    window.addEventListener("online", this.sendSoon);
  }

  /** Finds edits that an earlier page left behind and lays them over the project. */
  async pickUp(): Promise<void> {
    const left = await unsentOf(this.id).catch((error: unknown) => {
      // A browser that keeps nothing (some private windows) can still save to the server.
      console.warn("Edits cannot be kept in this browser", error);
      return [];
    });
    await this.catchUp();
    if (this.closed) return;
    if (left.length === 0) {
      if (this.host.project() === this.confirmed.project) this.host.state("saved");
      return;
    }
    let project = this.host.project();
    for (const { base, change, revision } of left) {
      const [was, edited] = [applyPackedChange(project, base), applyPackedChange(project, change)];
      // Edits of an older revision add to what was saved since; where both changed a thing, that stands.
      project =
        revision < this.confirmed.revision
          ? mergeProjects(was, project, edited)
          : mergeProjects(was, edited, project);
    }
    this.pickedUp = left.map((unsent) => unsent.key);
    this.host.replace(project);
    this.changed();
  }

  /**
   * The page may have been made just before the last edit of the page before it was saved: then the
   * project is newer by now.
   */
  private async catchUp(): Promise<void> {
    try {
      const current = await api.readIfOther(this.id, this.confirmed);
      if (current && !this.closed && !this.sending) this.takeOver(current);
    } catch {
      // Without an answer the next save will find out.
    }
  }

  /** Tracks that were deleted here since the page was opened, by id. */
  private readonly deleted = new Set<string>();

  /** Call after every change of the project, with what it was before. */
  changed(before?: Project): void {
    if (before && before.tracks !== this.host.project().tracks) {
      const now = new Set(this.host.project().tracks.map((track) => track.id));
      for (const { id } of before.tracks) if (!now.has(id)) this.deleted.add(id);
    }
    if (this.closed) return;
    if (this.host.project() === this.confirmed.project) {
      // Undone to what the server has: nothing is left to send.
      if (!this.sending) this.settle();
      return;
    }
    if (this.host.project() === this.refused) return;
    if (this.fork) {
      this.keepNow();
      return;
    }
    this.host.state(this.failures > 0 ? "waiting" : "saving");
    // When the page has a moment: keeping a large part takes some ms, which no click should wait
    // for. A page that goes away keeps at once.
    this.keepTimer ??= requestIdleCallback(() => this.keepNow(), { timeout: 250 });
    this.unsentSince ??= Date.now();
    const left = this.unsentSince + LONGEST_PAUSE_MS - Date.now();
    if (!this.sending && this.failures === 0) this.sendIn(clamp(left, 0, PAUSE_MS));
  }

  private readonly keepLast = (): void => {
    this.keepNow(keepLast);
    this.sendLast();
  };

  /** Sends what is unsent as the page goes away. What the browser keeps of it is forgotten once it is there. */
  private sendLast(): void {
    const project = this.host.project();
    const change = diffProjects(this.confirmed.project, project);
    if (!change || this.closed || this.sending || this.fork || project === this.refused) return;
    const keys = [this.key, ...this.pickedUp];
    const sent = sentChange(change, this.confirmed.project);
    api.changeLast(this.id, this.confirmed, sent).then(
      ({ revision, stamp }) => {
        this.confirmed = { revision, stamp, project };
        if (this.host.project() === project) dropUnsent(keys);
      },
      () => undefined,
    );
  }

  private readonly keepNow = (keep = keepUnsent): void => {
    if (this.keepTimer !== null) cancelIdleCallback(this.keepTimer);
    this.keepTimer = null;
    const { project, revision } = this.confirmed;
    const change = packedDiff(project, this.host.project());
    const base = packedDiff(this.host.project(), project);
    if (change && base) keep({ key: this.key, project: this.id, revision, base, change });
  };

  private readonly sendSoon = (): void => this.sendIn(0);

  private sendIn(ms: number): void {
    if (this.sendTimer) clearTimeout(this.sendTimer);
    this.sendTimer = setTimeout(() => void this.send(), ms);
  }

  private async send(): Promise<void> {
    if (this.sending || this.closed || this.fork) return;
    const project = this.host.project();
    if (project === this.refused) return;
    const change = diffProjects(this.confirmed.project, project);
    if (!change) {
      this.settle();
      return;
    }
    this.sending = true;
    this.unsentSince = null;
    const was = this.confirmed.project;
    const portion = firstPortion(change, was);
    try {
      const { revision, stamp } = await api.change(
        this.id,
        this.confirmed,
        sentChange(portion, was),
      );
      const there = applyChange(was, portion);
      const whole = portion === change || !diffProjects(there, project);
      this.confirmed = { revision, stamp, project: whole ? project : there };
      this.failures = 0;
      this.refused = null;
      this.channel.postMessage({ revision });
      this.settle();
    } catch (error) {
      this.failed(error, project);
    } finally {
      this.sending = false;
    }
    const now = this.host.project();
    if (now === this.confirmed.project || now === this.refused || this.failures > 0) return;
    this.sendIn(portion === change ? PAUSE_MS : 0);
  }

  /** Nothing is unsent any more, unless the project changed while it was being sent. */
  private settle(): void {
    if (this.host.project() !== this.confirmed.project) {
      this.keepNow();
      return;
    }
    this.unsentSince = null;
    if (this.keepTimer !== null) cancelIdleCallback(this.keepTimer);
    this.keepTimer = null;
    dropUnsent([this.key, ...this.pickedUp]);
    this.pickedUp = [];
    this.host.state("saved");
  }

  private failed(error: unknown, sent: Project): void {
    // What is not a request's error is as good as no answer: it is tried again, ever more slowly.
    const { status, message, body } =
      error instanceof RequestError ? error : new RequestError(0, String(error));
    const { current, known } = body as { current?: StoredProject; known?: boolean };
    if (status === 409 && current && isAnswer(current, ANSWERS.stored)) {
      this.failures = 0;
      if (known === false) this.forkedTo(current);
      else {
        this.takeOver(current);
        this.sendIn(0);
      }
    } else if (status === 0 || status >= 500) {
      const pause = nth(RETRY_MS, Math.min(this.failures, RETRY_MS.length - 1));
      this.failures++;
      // What is wrong with its disk the server says itself.
      this.host.state("waiting", status > 0 ? message : "");
      this.sendIn(pause);
    } else {
      this.failures = 0;
      this.refused = sent;
      this.host.state("refused", message);
    }
  }

  /** An older file was put back on the server: nothing is sent until somebody says which copy stands. */
  private forkedTo(current: StoredProject): void {
    this.fork = current;
    this.keepNow();
    this.host.state("forked");
    this.host.forked();
  }

  /** Says which copy stands: what is here, or what the server has. */
  settleFork(keep: "here" | "server"): void {
    if (!this.fork || this.closed) return;
    const { revision, stamp, project } = this.fork;
    this.fork = null;
    this.confirmed = { revision, stamp, project };
    if (keep === "server") this.host.replace(project);
    this.changed();
  }

  private takeOver(current: StoredProject): void {
    const [was, mine, theirs] = [this.confirmed.project, this.host.project(), current.project];
    const merged = mergeProjects(was, mine, theirs);
    const back = new Set(returning(was, mine, theirs).map((track) => track.name));
    // What another tab brought back after it was deleted here comes as new.
    const here = new Set(mine.tracks.map((track) => track.id));
    for (const { id, name } of merged.tracks) {
      if (!here.has(id) && this.deleted.has(id)) back.add(name);
    }
    const { revision, stamp, project } = current;
    this.confirmed = { revision, stamp, project };
    this.host.replace(merged);
    if (back.size > 0) this.host.returned([...back]);
  }

  /** Brings in what another tab saved. */
  private async pull(): Promise<void> {
    try {
      const current = await api.read(this.id);
      if (this.closed || this.sending || current.revision <= this.confirmed.revision) return;
      this.takeOver(current);
      if (this.host.project() === current.project) this.settle();
      else this.changed();
    } catch {
      // The other tab's edits are safe on the server; the next save finds them there.
    }
  }

  close(): void {
    this.keepNow();
    this.sendLast();
    this.closed = true;
    if (this.sendTimer) clearTimeout(this.sendTimer);
    this.channel.close();
    window.removeEventListener("pagehide", this.keepLast);
    window.removeEventListener("online", this.sendSoon);
  }
}
