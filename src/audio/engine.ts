import {
  type MidiPitch,
  type Milliseconds,
  type Seconds,
  type Semitones,
  type Ticks,
  type Velocity,
  must,
  modulo,
} from "@/core/base";
import { barTicks, beatTicks } from "@/core/time";
import { padName } from "@/core/pitch";
import { type Project, metreOf, patternBar, songPositionAt, tempoAt } from "@/core/score";
import { ReferenceTrack } from "./reference-track";
import { clickAt, type ClickSound } from "./click";
import { gainNode } from "./ease";
import { levelGain, type HeldNote } from "./instrument";
import { LiveNotes } from "./live-notes";
import { Mixer, type MakePort } from "./mixer";
import { LoudnessMeter } from "./loudness-meter";
import type { PadRenderer } from "./pads/render";
import { WorkerRenderer } from "./pads/renderers";
import { SentNotes } from "./record";
import { LOOK_AHEAD, Scheduler, type Playing, type Position } from "./scheduler";
import { noteOnOf } from "./note-on";
import { fetchAudioThread, loadAudioThread } from "./worklet/load";
import { MixPort, TOO_LATE } from "./worklet/mix-port";

/** How often the scheduler wakes, in ms. */
const WAKE_MS = 25;
/** Time between pressing play and the first note, so that it is handed over before it is due. */
const START_DELAY = 0.06;

/** So long playing waits for a recording, in ms. */
const PATIENCE_MS = 600;
const soon = (work: Promise<void>, ms: number) =>
  Promise.race([work, new Promise<void>((resolve) => setTimeout(resolve, ms))]);

/** So many of the last clicks are kept. */
const MAX_CLICKS = 256;

/** How long an auditioned sound, or what rings after stopping, may go on. */
const RING_MS = 2500;

/** Sound in the browser: owns the audio context, wakes the scheduler, hands notes to the mixer. */
export class Engine {
  readonly sent = new SentNotes();
  /** Notes begun by hand, and how soon they sounded. */
  readonly live = new LiveNotes();
  private readonly scheduler = new Scheduler();
  private context: AudioContext | null = null;
  private mixer: Mixer | null = null;
  private port: MixPort | null = null;
  private meter: LoudnessMeter | null = null;
  private clock: Worker | null = null;
  /** The recording behind the pattern. */
  private reference: ReferenceTrack | null = null;
  /** Stands in for the clock's worker where that cannot be had. */
  private timer: ReturnType<typeof setInterval> | null = null;
  private clockBroken = false;
  private readonly pads = new WorkerRenderer();
  private lastSound = -Infinity;
  private clickLevel: GainNode | null = null;
  /** Whether beats are heard; those of the count-in always are. */
  click = false;
  /** How the metronome sounds, and into how many parts it divides a beat. */
  metronome: ClickSound & { parts: number } = { sound: "tick", level: 0, accent: true, parts: 1 };
  /** Beats clicked since the page was opened. */
  clicked = 0;
  /** The last clicks: when each was due, on which tick since playback began, and whether of the count-in. */
  readonly clicks: { due: number; tick: Ticks; countIn: boolean }[] = [];
  /** From −1, only the recording behind a pattern, over 0, both, to 1, only the music. */
  private balance = 0;
  /** Which start of playback this is, over a reload too: ticks of one run can be compared. */
  runs = Date.now();
  /** What the player's own devices take from a touch to its message, measured by tapping along. */
  inputLatency: Milliseconds = 0;

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
    // Asked for again when sound starts, and told of then.
    fetchAudioThread().catch(() => undefined);
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
      // Before anything sounds. What needs it asks for it again, and tells when it cannot be had.
      loadAudioThread(this.context).catch(() => undefined);
      const { context } = this;
      const failed = (why: string) =>
        this.problem(
          `Sound stumbled: ${why}. If it stays silent, load the page again; nothing is lost`,
        );
      const makePort: MakePort = (options, listener) => {
        const port = new MixPort(context, options, listener, failed);
        port.lead(context.destination);
        return (this.port = port);
      };
      this.mixer = new Mixer(context, makePort, { metering: true, render: this.renderPad });
      this.reference = new ReferenceTrack(
        this.context,
        this.context.destination,
        this.renderPad,
        this.problem,
      );
      this.setBalance(this.balance);
      this.prepare();
    }
    must(this.mixer).update(this.project());
    if (this.context.state !== "running") await this.context.resume();
    // Without the audio thread's program nothing sounds; the next start asks for it again.
    await must(this.mixer)
      .ready()
      .catch((error: unknown) => this.problem(`Sound cannot be had: ${(error as Error).message}`));
    return this.context;
  }

  /** Gets sound going, so that a key pressed later is heard at once. From a click or key, as all that starts sound. */
  async wakeUp(): Promise<void> {
    await this.open();
  }

  /**
   * Plays a pattern or the song from one of its ticks, counted in so many bars. Resolves when the clock
   * runs.
   */
  async play(what: Playing | string, fromTick = 0, countInBars = 0): Promise<void> {
    const context = await this.open();
    const project = this.project();
    const playing = typeof what === "string" ? { pattern: what } : what;
    const first = songPositionAt(project, fromTick, playing);
    const { bpm } = tempoAt(project, fromTick, playing);
    // A recording that does not come soon comes in where the music is then.
    const recording = first?.section.pattern.recording;
    if (recording) await soon(must(this.reference).ready(recording, bpm), PATIENCE_MS);
    const countIn = countInBars * (first ? patternBar(project, first.section.pattern) : 0);
    this.clicks.length = 0;
    this.runs++;
    this.scheduler.start(project, playing, context.currentTime + START_DELAY, fromTick, countIn);
    this.wakeEvery(WAKE_MS);
    this.wake();
  }

  stop(): void {
    this.lastSound = performance.now();
    this.wakeEvery(null);
    this.scheduler.stop();
    this.mixer?.silence();
    this.reference?.stop();
  }

  /** What is heard of a recording behind a pattern and of the music: −1 only the one, 0 both, 1 only the other. */
  setBalance(balance: number): void {
    this.balance = balance;
    this.reference?.setLevel(Math.min(1, 1 - balance));
    this.mixer?.setShare(Math.min(1, 1 + balance));
  }

  /** How often a recording was begun or jumped since the page was opened. */
  get referenceBegun(): number {
    return this.reference?.begun ?? 0;
  }

  switchPattern(pattern: string): void {
    this.scheduler.switchPattern(this.project(), pattern);
  }

  /** Plays something else from one of its ticks on: with the next bar, or at once. */
  switchTo(what: Playing, tick: Ticks = 0, when: "bar" | "now" = "bar"): void {
    this.scheduler.switchTo(this.project(), what, tick, when);
  }

  /** Loops a stretch of what plays, or all of it. */
  setRange(range: Playing["range"]): void {
    this.scheduler.setRange(this.project(), range);
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
    mixer.update(project);
    const from = this.scheduler.handedOver;
    const due = this.scheduler.due(project, context.currentTime + LOOK_AHEAD);
    const to = this.scheduler.handedOver;
    // Clicks first: they cost least and are what is played to.
    this.clickBeats(project, context, from, to);
    if (project.patterns.some(({ recording }) => recording))
      this.reference?.follow(project, this.scheduler.stretches(project, from, to));
    else this.reference?.stop();
    for (const { event, time, tick, pattern, patternTick, tickSeconds } of due) {
      const asked = context.currentTime;
      if (asked - time > TOO_LATE) {
        this.sent.dropped++;
        continue;
      }
      const { pitch, velocity, glide } = event;
      mixer.noteOn(event.track, noteOnOf(event, Math.max(time, asked), tickSeconds));
      this.sent.add({
        asked,
        due: time,
        tick,
        patternTick,
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
    for (const { track, points } of this.scheduler.bends(project, from, to)) {
      mixer.follow(
        track,
        points.map(({ time, by }) => ({ time: Math.max(time, context.currentTime), by })),
      );
    }
  }

  private clickBeats(project: Project, context: AudioContext, from: Ticks, to: Ticks): void {
    const { level, parts } = this.metronome;
    for (const beat of this.scheduler.beats(project, from, to, parts)) {
      const countIn = this.scheduler.isCountIn(beat.tick);
      if (!this.click && !countIn) continue;
      if (context.currentTime - beat.time > TOO_LATE) continue;
      if (!this.clickLevel) {
        this.clickLevel = context.createGain();
        this.clickLevel.connect(context.destination);
      }
      this.clickLevel.gain.value = levelGain(level);
      const time = Math.max(beat.time, context.currentTime);
      clickAt(this.clickLevel, time, beat.kind, this.metronome);
      this.clicks.push({ due: beat.time, tick: beat.tick, countIn });
      if (this.clicks.length > MAX_CLICKS) this.clicks.shift();
      this.clicked++;
    }
  }

  /**
   * Begins a note by hand, for a key pressed at a time of the page's clock. It begins with the next block
   * of sound where sound is on; else as soon as it is, unless it was let go before.
   */
  hold(track: string, pitch: MidiPitch, velocity: Velocity, pressed: Milliseconds): HeldNote {
    const begin = (context: AudioContext): HeldNote | null => {
      const time = context.currentTime;
      this.lastSound = performance.now();
      const note = must(this.mixer).hold(track, { time, pitch, velocity, pan: 0, tune: 0 });
      this.live.begun({
        track,
        pitch,
        velocity,
        at: time,
        pressed,
        delay: performance.now() - pressed,
      });
      return note;
    };
    const { context, mixer } = this;
    if (context?.state === "running" && mixer) {
      const note = begin(context);
      return { release: () => this.letGo(note, context) };
    }
    let [note, gone]: [HeldNote | null, boolean] = [null, false];
    this.open().then(
      (opened) => {
        if (!gone) note = begin(opened);
      },
      (error: unknown) => this.problem(`Sound cannot be had: ${(error as Error).message}`),
    );
    return {
      release: () => {
        gone = true;
        if (this.context) this.letGo(note, this.context);
      },
    };
  }

  private letGo(note: HeldNote | null, context: AudioContext): void {
    this.lastSound = performance.now();
    note?.release(context.currentTime);
    if (note) this.live.ended++;
  }

  /** The hand bends a track by so many semitones. */
  bend(track: string, by: Semitones): void {
    this.mixer?.bend(track, by);
  }

  /**
   * Where the loop was for the player's ear and hand when something was played at a time of the page's
   * clock: what sounds is heard later than it is made, and a touch is told later than it is done. Below
   * tick 0 in a count-in; null when stopped.
   */
  playedAt(time: Milliseconds): { pattern: string; tick: Ticks } | null {
    if (!this.context || !this.scheduler.isPlaying) return null;
    return this.scheduler.position(this.project(), this.audioTime(time - this.inputLatency));
  }

  /** The beat of the bar that is heard being counted in, from 1, and how many are left with it; null when none is. */
  countIn(): { beat: number; left: number } | null {
    if (!this.context || !this.scheduler.isPlaying) return null;
    const earTime = this.audioTime(performance.now());
    const ahead = this.scheduler.countInLeft(earTime);
    const project = this.project();
    const at = ahead > 0 && this.scheduler.position(project, earTime);
    if (!at) return null;
    const pattern = must(project.patterns.find(({ id }) => id === at.pattern));
    const metre = metreOf(project, pattern);
    const [bar, beat] = [barTicks(metre), beatTicks(metre)];
    const inBar = modulo(at.tick, bar);
    return { beat: Math.floor(inBar / beat) + 1, left: Math.ceil(ahead / beat) };
  }

  /** The time of the audio clock that is heard at a time of the page's clock. */
  audioTime(time: Milliseconds): number {
    const context = must(this.context);
    const { contextTime = 0, performanceTime = 0 } = context.getOutputTimestamp();
    if (performanceTime > 0 && contextTime > 0)
      return contextTime + (time - performanceTime) / 1000;
    return context.currentTime + (time - this.outputLatency - performance.now()) / 1000;
  }

  /** Seconds of the audio clock; 0 before there is any. */
  get audioClock(): Seconds {
    return this.context?.currentTime ?? 0;
  }

  /** How long sound takes from being made to being heard, in ms; 0 before there is any. */
  get outputLatency(): Milliseconds {
    const { context } = this;
    return context ? (context.outputLatency || context.baseLatency || 0) * 1000 : 0;
  }

  /** Clicks on the beats to come, for tapping along: their times of the page's clock. Resolves when the first is due. */
  async clicksAlong(count: number, gap: Milliseconds): Promise<Milliseconds[]> {
    const context = await this.open();
    const first = context.currentTime + 0.5;
    const offset = performance.now() / 1000 - this.audioTime(performance.now());
    return Array.from({ length: count }, (_, i) => {
      const time = first + (i * gap) / 1000;
      clickAt(context.destination, time, i % 4 === 0 ? "bar" : "beat", this.metronome);
      return (time + offset) * 1000;
    });
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
    must(this.mixer).noteOn(track, {
      time: context.currentTime + 0.005,
      seconds,
      pitch,
      velocity,
      pan: 0,
      tune,
    });
  }

  /** Where playback stands for the ear: pattern and tick since its turn began; null when stopped, and in a count-in. */
  position(): Position | null {
    if (!this.context) return null;
    // The clock of the ear, by which what is played is written too.
    const earTime = this.audioTime(performance.now());
    return this.scheduler.countInLeft(earTime) > 0
      ? null
      : this.scheduler.position(this.project(), earTime);
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

  /** Highest sample of a track just now in dB. */
  peakOf(track: string): number {
    return this.mixer?.peakOf(track) ?? -Infinity;
  }

  /** Highest sample of the whole mix just now in dB. */
  masterPeak(): number {
    return this.mixer?.masterPeak() ?? -Infinity;
  }

  /** What measures how loud the whole is, from the first time it is asked for; null before there is sound. */
  loudness(): LoudnessMeter | null {
    const { context, port } = this;
    if (!context || !port) return null;
    if (!this.meter) {
      const output = gainNode(context, 1);
      port.lead(output);
      this.meter = new LoudnessMeter(context, output, () => this.isSounding);
    }
    return this.meter;
  }

  dispose(): void {
    this.stop();
    this.pads.close();
    this.clock?.terminate();
    this.clock = null;
    this.meter?.dispose();
    this.meter = null;
    this.mixer?.dispose();
    this.reference?.dispose();
    void this.context?.close().catch(() => undefined);
    this.context = null;
    this.mixer = null;
  }
}
