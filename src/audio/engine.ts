import * as Tone from "tone";
import { msPerTick, padName, type MidiPitch, type Project, type Ticks } from "@/core";
import { clickAt } from "./click";
import { Mixer } from "./mixer";
import type { PadRenderer } from "./pads/render";
import { WorkerRenderer } from "./pads/renderers";
import { SentNotes } from "./record";
import { LOOK_AHEAD, Scheduler } from "./scheduler";
import { triggerOf } from "./trigger";

/** How often the scheduler wakes, in ms. */
const WAKE_MS = 25;
/** Time between pressing play and the first note, so that it is handed over before it is due. */
const START_DELAY = 0.06;

/** After a stall, what is later than this is left out: played all at once it would be a burst. */
const TOO_LATE = 0.1;

/** How long an auditioned sound, or what rings after stopping, may go on. */
const RING_MS = 2500;

/** Sound in the browser: owns the audio context, wakes the scheduler, hands notes to the mixer. */
export class Engine {
  readonly sent = new SentNotes();
  private readonly scheduler = new Scheduler();
  private context: AudioContext | null = null;
  private tone: Tone.Context | null = null;
  private mixer: Mixer | null = null;
  private clock: Worker | null = null;
  /** Stands in for the clock's worker where that cannot be had. */
  private timer: ReturnType<typeof setInterval> | null = null;
  private clockBroken = false;
  private readonly pads = new WorkerRenderer();
  private lastSound = -Infinity;
  /** Whether beats are heard. */
  click = false;
  /** Beats clicked since the page was opened. */
  clicked = 0;

  /**
   * `project` is asked for anew in every window, so an edit is heard in the next one. `problem` is told
   * what of the sound cannot be had; all else goes on.
   */
  constructor(
    private readonly project: () => Project,
    private readonly problem: (text: string) => void = () => undefined,
  ) {}

  /**
   * Fetches the clock's script ahead of time, so that playing needs no server later. Call once the
   * page is there.
   */
  prepare(): void {
    if (this.clock || this.clockBroken) return;
    this.clock = new Worker(new URL("../workers/clock.worker.ts", import.meta.url), {
      type: "module",
    });
    this.clock.onmessage = () => this.wake();
    this.clock.onerror = () => this.withoutClock();
    this.pads.open();
  }

  /** Without its worker the clock is a timer of the page: less steady, but it plays. */
  private withoutClock(): void {
    this.clock?.terminate();
    this.clock = null;
    this.clockBroken = true;
    this.problem("The clock's worker cannot be had: timing may be less steady");
    if (this.isPlaying) this.wakeEvery(WAKE_MS);
  }

  private wakeEvery(ms: number | null): void {
    if (this.timer !== null) clearInterval(this.timer);
    this.timer = null;
    if (!this.clockBroken) this.clock?.postMessage({ ms });
    else if (ms !== null) this.timer = setInterval(() => this.wake(), ms);
  }

  private readonly renderPad: PadRenderer = async (job) => {
    try {
      return await this.pads.render(job);
    } catch (error) {
      this.problem(
        `${padName(job.pad.pitch)} could not be made and is silent: ${(error as Error).message}`,
      );
      throw error;
    }
  };

  /** Must first be called from a click or key: browsers start sound only then. */
  private async open(): Promise<AudioContext> {
    if (!this.context) {
      this.context = new AudioContext({ latencyHint: "interactive" });
      this.tone = new Tone.Context(this.context);
      Tone.setContext(this.tone);
      this.mixer = new Mixer(this.tone, this.context, true, this.renderPad);
      this.prepare();
    }
    this.mixer!.update(this.project());
    if (this.context.state !== "running") await this.context.resume();
    await this.mixer!.ready();
    return this.context;
  }

  /** Plays a pattern from one of its ticks. Resolves when the clock runs. */
  async play(pattern: string, fromTick = 0): Promise<void> {
    const context = await this.open();
    this.scheduler.start(this.project(), pattern, context.currentTime + START_DELAY, fromTick);
    this.wakeEvery(WAKE_MS);
    this.wake();
  }

  stop(): void {
    this.lastSound = performance.now();
    this.wakeEvery(null);
    this.scheduler.stop();
    this.mixer?.silence();
  }

  switchPattern(pattern: string): void {
    this.scheduler.switchPattern(this.project(), pattern);
  }

  get isPlaying(): boolean {
    return this.scheduler.isPlaying;
  }

  /** Brings levels, pans and sounds up to date without waiting for the next window. */
  refresh(): void {
    this.mixer?.update(this.project());
  }

  private wake(): void {
    const { context, mixer } = this;
    if (!context || !mixer || !this.scheduler.isPlaying) return;
    const project = this.project();
    const tickSeconds = msPerTick(project.tempo) / 1000;
    mixer.update(project);
    const from = this.scheduler.handedOver;
    for (const { event, time, tick, pattern } of this.scheduler.due(
      project,
      context.currentTime + LOOK_AHEAD,
    )) {
      const asked = context.currentTime;
      if (asked - time > TOO_LATE) {
        this.sent.dropped++;
        continue;
      }
      const { pitch, velocity, glide } = event;
      mixer.trigger(event.track, triggerOf(event, Math.max(time, asked), tickSeconds));
      this.sent.add({
        asked,
        due: time,
        tick,
        patternTick: event.start,
        pattern,
        track: event.track,
        note: event.note,
        pitch,
        velocity,
        ticks: event.length,
        glide: glide?.pitch ?? null,
        late: time < asked,
      });
    }
    if (!this.click) return;
    for (const beat of this.scheduler.beats(project, from, this.scheduler.handedOver)) {
      if (context.currentTime - beat.time > TOO_LATE) continue;
      clickAt(context, Math.max(beat.time, context.currentTime), beat.strong);
      this.clicked++;
    }
  }

  /** Sounds one note now, for hearing what is drawn or selected. */
  async audition(
    track: string,
    pitch: MidiPitch,
    velocity = 100,
    seconds = 0.3,
    tune = 0,
  ): Promise<void> {
    const context = await this.open();
    this.lastSound = performance.now();
    this.mixer!.trigger(track, {
      time: context.currentTime + 0.005,
      seconds,
      pitch,
      velocity,
      pan: 0,
      tune,
    });
  }

  /** Where playback stands for the ear: pattern and tick since its turn began; null when stopped. */
  position(): { pattern: string; tick: Ticks } | null {
    if (!this.context) return null;
    return this.scheduler.position(this.context.currentTime - this.context.baseLatency);
  }

  /** Whether anything may be heard now: the loop plays, or something was just auditioned. */
  get isSounding(): boolean {
    return this.isPlaying || performance.now() - this.lastSound < RING_MS;
  }

  /** Level of a track in dB, for meters. */
  levelOf(track: string): number {
    return this.mixer?.levelOf(track) ?? -Infinity;
  }

  /** Level of the whole mix in dB, for its meter. */
  masterLevel(): number {
    return this.mixer?.masterLevel() ?? -Infinity;
  }

  dispose(): void {
    this.stop();
    this.pads.close();
    this.clock?.terminate();
    this.clock = null;
    this.mixer?.dispose();
    this.tone?.dispose();
    void this.context?.close().catch(() => undefined);
    this.context = null;
    this.tone = null;
    this.mixer = null;
  }
}
