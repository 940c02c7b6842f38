import * as Tone from "tone";
import { msPerTick, type MidiPitch, type Project, type Ticks } from "@/core";
import { clickAt } from "./click";
import { Mixer } from "./mixer";
import { WorkerRenderer } from "./pads/renderers";
import { SentNotes } from "./record";
import { LOOK_AHEAD, Scheduler } from "./scheduler";
import { triggerOf } from "./trigger";

/** How often the scheduler wakes, in ms. */
const WAKE_MS = 25;
/** Time between pressing play and the first note, so that it is handed over before it is due. */
const START_DELAY = 0.06;

/** How long an auditioned sound, or what rings after stopping, may go on. */
const RING_MS = 2500;

/** Sound in the browser: owns the audio context, wakes the scheduler, hands notes to the mixer. */
export class Engine {
  readonly sent = new SentNotes();
  private readonly scheduler = new Scheduler();
  private context: AudioContext | null = null;
  private mixer: Mixer | null = null;
  private clock: Worker | null = null;
  private readonly pads = new WorkerRenderer();
  private lastSound = -Infinity;
  /** Whether beats are heard. */
  click = false;
  /** Beats clicked since the page was opened. */
  clicked = 0;

  /** `project` is asked for anew in every window, so an edit is heard in the next one. */
  constructor(private readonly project: () => Project) {}

  /**
   * Fetches the clock's script ahead of time, so that playing needs no server later. Call once the
   * page is there.
   */
  prepare(): void {
    if (this.clock) return;
    this.clock = new Worker(new URL("../workers/clock.worker.ts", import.meta.url), {
      type: "module",
    });
    this.clock.onmessage = () => this.wake();
    this.pads.open();
  }

  /** Must first be called from a click or key: browsers start sound only then. */
  private async open(): Promise<AudioContext> {
    if (!this.context) {
      this.context = new AudioContext({ latencyHint: "interactive" });
      const tone = new Tone.Context(this.context);
      Tone.setContext(tone);
      this.mixer = new Mixer(tone, this.context, true, this.pads.render);
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
    this.clock!.postMessage({ ms: WAKE_MS });
    this.wake();
  }

  stop(): void {
    this.lastSound = performance.now();
    this.clock?.postMessage({ ms: null });
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
    void this.context?.close();
    this.context = null;
    this.mixer = null;
  }
}
