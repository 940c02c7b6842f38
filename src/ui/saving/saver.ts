import { applyChange, diffProjects, mergeProjects, type Project, type StoredProject } from "@/core";
import { api, type RequestError } from "./api";
import { dropUnsent, keepLast, keepUnsent, unsentOf } from "./outbox";

/** `opening`: looking for edits an earlier page left. `waiting`: the server does not answer, edits are kept here. `refused`: it said no, they are kept too. */
export type SaveState = "opening" | "saved" | "saving" | "waiting" | "refused";

interface Host {
  project(): Project;
  /** Puts a merged project in place of the current one, outside the history. */
  replace(project: Project): void;
  state(state: SaveState, message?: string): void;
}

const PAUSE_MS = 150;
const RETRY_MS = [400, 800, 1600, 3000];

/**
 * Saves a project as it changes: only what differs from what the server has, with the revision it
 * was made on. A stale revision is merged and sent again; no answer is tried again; and until the
 * server has it, every edit also lies in the browser's own store.
 */
export class Saver {
  private confirmed: { revision: number; project: Project };
  private readonly id: string;
  private readonly key: string;
  private readonly channel: BroadcastChannel;
  private pickedUp: string[] = [];
  private keepTimer: number | null = null;
  private sendTimer: ReturnType<typeof setTimeout> | null = null;
  private sending = false;
  private failures = 0;
  private closed = false;

  constructor(
    stored: StoredProject,
    private readonly host: Host,
    tab: string,
  ) {
    this.id = stored.id;
    this.key = `${stored.id}/${tab}`;
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
    for (const { base, change } of left) {
      project = mergeProjects(applyChange(project, base), applyChange(project, change), project);
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
      const current = await api.readIfOther(this.id, this.confirmed.revision);
      if (current && !this.closed && !this.sending) this.takeOver(current);
    } catch {
      // Without an answer the next save will find out.
    }
  }

  /** Call after every change of the project. */
  changed(): void {
    if (this.closed || this.host.project() === this.confirmed.project) return;
    this.host.state(this.failures > 0 ? "waiting" : "saving");
    // When the page has a moment: keeping a large part takes some ms, which no click should wait
    // for. A page that goes away keeps at once.
    this.keepTimer ??= requestIdleCallback(() => this.keepNow(), { timeout: 250 });
    if (!this.sending && this.failures === 0) this.sendIn(PAUSE_MS);
  }

  private readonly keepLast = (): void => this.keepNow(keepLast);

  private readonly keepNow = (keep = keepUnsent): void => {
    if (this.keepTimer !== null) cancelIdleCallback(this.keepTimer);
    this.keepTimer = null;
    const { project, revision } = this.confirmed;
    const change = diffProjects(project, this.host.project());
    const base = diffProjects(this.host.project(), project);
    if (change && base) keep({ key: this.key, project: this.id, revision, base, change });
  };

  private readonly sendSoon = (): void => this.sendIn(0);

  private sendIn(ms: number): void {
    if (this.sendTimer) clearTimeout(this.sendTimer);
    this.sendTimer = setTimeout(() => void this.send(), ms);
  }

  private async send(): Promise<void> {
    if (this.sending || this.closed) return;
    const project = this.host.project();
    const change = diffProjects(this.confirmed.project, project);
    if (!change) {
      this.settle();
      return;
    }
    this.sending = true;
    try {
      const { revision } = await api.change(this.id, this.confirmed.revision, change);
      this.confirmed = { revision, project };
      this.failures = 0;
      this.channel.postMessage({ revision });
      this.settle();
    } catch (error) {
      this.failed(error as RequestError);
    } finally {
      this.sending = false;
    }
    if (this.host.project() !== this.confirmed.project && this.failures === 0)
      this.sendIn(PAUSE_MS);
  }

  /** Nothing is unsent any more, unless the project changed while it was being sent. */
  private settle(): void {
    if (this.host.project() !== this.confirmed.project) {
      this.keepNow();
      return;
    }
    if (this.keepTimer !== null) cancelIdleCallback(this.keepTimer);
    this.keepTimer = null;
    dropUnsent([this.key, ...this.pickedUp]);
    this.pickedUp = [];
    this.host.state("saved");
  }

  private failed(error: RequestError): void {
    const { current } = error.body as { current?: StoredProject };
    if (error.status === 409 && current) {
      this.takeOver(current);
      this.sendIn(0);
    } else if (error.status === 0 || error.status >= 500) {
      const pause = RETRY_MS[Math.min(this.failures, RETRY_MS.length - 1)]!;
      this.failures++;
      this.host.state("waiting");
      this.sendIn(pause);
    } else {
      this.host.state("refused", error.message);
    }
  }

  private takeOver(current: StoredProject): void {
    const merged = mergeProjects(this.confirmed.project, this.host.project(), current.project);
    this.confirmed = { revision: current.revision, project: current.project };
    this.host.replace(merged);
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
    this.closed = true;
    if (this.sendTimer) clearTimeout(this.sendTimer);
    this.channel.close();
    window.removeEventListener("pagehide", this.keepLast);
    window.removeEventListener("online", this.sendSoon);
  }
}
