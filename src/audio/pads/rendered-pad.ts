import type { PadSound } from "../synth/hits";
import { jobKey, type PadJob } from "./render";

/** One pad's sound as it was last rendered. While it becomes another, the old one goes on being played. */
export class RenderedPad {
  sound: PadSound | null = null;
  private wanted = "";
  private next: PadJob | null = null;
  /** What could not be rendered last, to be tried again. */
  private failed: PadJob | null = null;
  private busy: Promise<void> | null = null;

  constructor(private readonly render: (job: PadJob) => Promise<PadSound>) {}

  /** Asks for a sound; nothing is done where it is the one asked for before. */
  want(job: PadJob): void {
    const wanted = jobKey(job);
    if (this.wanted === wanted) return;
    this.wanted = wanted;
    // Only the newest of several wishes is rendered: a slider moves faster than sound is made.
    this.failed = null;
    this.next = job;
    this.busy ??= this.work();
  }

  /** Resolves when nothing is being rendered; what failed before is tried once more. */
  async ready(): Promise<void> {
    if (this.failed && !this.busy) {
      this.next = this.failed;
      this.busy = this.work();
    }
    await this.busy;
  }

  private async work(): Promise<void> {
    while (this.next) {
      const job = this.next;
      this.next = null;
      try {
        this.sound = await this.render(job);
        this.failed = null;
      } catch {
        // The renderer has said so. The old sound stays, the rest plays, and the next start tries again.
        this.failed = job;
      }
    }
    this.busy = null;
  }
}
