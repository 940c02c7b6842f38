import { wrap, type Remote } from "comlink";

/**
 * What a worker offers, called as if it were here. A worker that cannot be fetched or breaks rejects
 * the calls that wait for it; the next call starts another.
 */
export class RemoteWorker<T> {
  private worker: Worker | null = null;
  private remote: Remote<T> | null = null;
  private readonly waiting = new Set<(error: Error) => void>();

  /** `name` is what the worker does, for messages: “The generator stopped …”. */
  constructor(
    private readonly name: string,
    private readonly make: () => Worker,
  ) {}

  /** Starts the worker where there is none, so that its script is here before it is needed. */
  open(): Remote<T> {
    if (!this.worker || !this.remote) {
      this.worker = this.make();
      this.worker.onerror = (event) => this.fail(event.message);
      this.worker.onmessageerror = () => this.fail("its answer cannot be read");
      this.remote = wrap<T>(this.worker);
    }
    return this.remote;
  }

  /** Calls the worker; rejects with what it throws, or when it breaks meanwhile. */
  call<R>(work: (remote: Remote<T>) => Promise<R>): Promise<R> {
    return new Promise<R>((resolve, reject) => {
      const broke = (error: Error) => reject(error);
      this.waiting.add(broke);
      work(this.open())
        .then(resolve, reject)
        .finally(() => this.waiting.delete(broke));
    });
  }

  private fail(why: string): void {
    this.close(new Error(`${this.name} stopped${why ? `: ${why}` : ""}. Try again`));
  }

  /** Ends the worker; calls that still wait are rejected. */
  close(error = new Error(`${this.name} was closed`)): void {
    this.worker?.terminate();
    this.worker = null;
    this.remote = null;
    for (const reject of [...this.waiting]) reject(error);
    this.waiting.clear();
  }
}
