/** A value of a node that remembers what is asked of it. */
export class FakeParam {
  readonly asked: { how: string; value: number; time: number }[] = [];
  constructor(public value = 0) {}
  setValueAtTime(value: number, time: number) {
    return this.ask("set", value, time);
  }
  linearRampToValueAtTime(value: number, time: number) {
    return this.ask("linear", value, time);
  }
  exponentialRampToValueAtTime(value: number, time: number) {
    return this.ask("exponential", value, time);
  }
  setTargetAtTime(value: number, time: number) {
    return this.ask("target", value, time);
  }
  cancelScheduledValues(time: number) {
    return this.ask("cancel", 0, time);
  }
  cancelAndHoldAtTime(time: number) {
    return this.ask("hold", 0, time);
  }
  private ask(how: string, value: number, time: number) {
    this.asked.push({ how, value, time });
    if (how !== "cancel" && how !== "hold") this.value = value;
    return this;
  }
}

const PARAMS = ["gain", "pan", "frequency", "detune", "Q", "delayTime", "offset", "playbackRate"];

/** A node of the audio graph: its values, and what it leads to. */
export class FakeNode {
  readonly to: unknown[] = [];
  started: number | null = null;
  stopped: number | null = null;
  disconnected = 0;
  buffer: { length: number } | null = null;
  curve: Float32Array | null = null;
  [param: string]: unknown;
  constructor(
    readonly kind: string,
    readonly args: unknown[],
  ) {
    for (const name of PARAMS) this[name] = new FakeParam(name === "gain" ? 1 : 0);
  }
  param(name: string): FakeParam {
    return this[name] as FakeParam;
  }
  connect(node: unknown) {
    this.to.push(node);
    return node;
  }
  disconnect() {
    this.disconnected++;
  }
  start(time: number) {
    this.started = time;
  }
  stop(time: number) {
    this.stopped = time;
  }
}

/** An audio context of such nodes, its clock moved by the test. */
export function fakeContext() {
  const nodes: FakeNode[] = [];
  const own: Record<string, unknown> = {
    currentTime: 0,
    sampleRate: 44_100,
    destination: new FakeNode("Destination", []),
    createBuffer: (channels: number, length: number) => ({ channels, length, copyToChannel() {} }),
    audioWorklet: { addModule: () => Promise.resolve() },
  };
  const context = new Proxy(own, {
    get(target, name: string) {
      if (name in target) return target[name];
      if (!name.startsWith("create")) return undefined;
      return (...args: unknown[]) => {
        const node = new FakeNode(name.slice(6), args);
        nodes.push(node);
        return node;
      };
    },
  });
  const of = (kind: string) => nodes.filter((node) => node.kind === kind);
  return {
    context: context as unknown as BaseAudioContext,
    clock: own as { currentTime: number },
    nodes,
    of,
  };
}
