import { expose } from "comlink";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { RemoteWorker } from "./remote";

const service = {
  double: (n: number) => 2 * n,
  refuse: () => {
    throw new RangeError("density must be at most 100");
  },
  never: () => new Promise<number>(() => undefined),
};
type Service = typeof service;

/** A worker in miniature: a message channel with the service at its other end. */
class FakeWorker {
  static made: FakeWorker[] = [];
  private readonly channel = new MessageChannel();
  onerror: ((event: { message: string }) => void) | null = null;
  onmessageerror: (() => void) | null = null;
  ended = false;
  constructor() {
    FakeWorker.made.push(this);
    expose(service, this.channel.port2);
    this.channel.port1.start();
  }
  postMessage = (...args: Parameters<MessagePort["postMessage"]>) =>
    this.channel.port1.postMessage(...args);
  addEventListener = (...args: Parameters<MessagePort["addEventListener"]>) =>
    this.channel.port1.addEventListener(...args);
  removeEventListener = (...args: Parameters<MessagePort["removeEventListener"]>) =>
    this.channel.port1.removeEventListener(...args);
  terminate() {
    this.ended = true;
    this.channel.port1.close();
    this.channel.port2.close();
  }
}

const remote = () => new RemoteWorker<Service>("The helper", () => new FakeWorker() as never);
beforeEach(() => {
  FakeWorker.made = [];
  vi.useRealTimers();
});

describe("a worker", () => {
  it("answers calls, and throws here what it throws there", async () => {
    const worker = remote();
    expect(await worker.call((r) => r.double(21))).toBe(42);
    await expect(worker.call((r) => r.refuse() as Promise<never>)).rejects.toThrow(
      "density must be at most 100",
    );
    expect(FakeWorker.made).toHaveLength(1);
    worker.close();
  });

  it("that breaks rejects what waits for it, and the next call starts another", async () => {
    const worker = remote();
    const waiting = worker.call((r) => r.never());
    FakeWorker.made[0]!.onerror!({ message: "out of memory" });
    await expect(waiting).rejects.toThrow("The helper stopped: out of memory. Try again");
    expect(FakeWorker.made[0]!.ended).toBe(true);
    expect(await worker.call((r) => r.double(4))).toBe(8);
    expect(FakeWorker.made).toHaveLength(2);
    worker.close();
  });

  it("that is closed lets nothing wait for ever", async () => {
    const worker = remote();
    const waiting = worker.call((r) => r.never());
    worker.close();
    await expect(waiting).rejects.toThrow("The helper was closed");
  });
});
