import { existsSync } from "node:fs";
import path from "node:path";
import type { Worker } from "node:worker_threads";
import { ApiError } from "../errors";
import type { Tasks } from "./tasks";
import type { Question, Reply } from "./worker";
import { must } from "@/core/base";

/** Threads at a time, tasks that wait for one, how long a task may take, and the memory of a thread. */
const THREADS = 3;
const WAITING = 64;
const PATIENCE_MS = 30_000;
/** Everything there is may take longer. */
const PATIENCE_ALL_MS = 600_000;
const MEMORY_MB = 1536;

/** Said of a task that took longer than it may. */
const GIVEN_UP = "and was given up";
export const isGivenUp = ({ message }: Error): boolean => message.includes(GIVEN_UP);

/** The bundled thread, made by the build. */
const workerFile = () => path.join(process.cwd(), "build", "heavy.mjs");

interface Waiting {
  question: Question;
  transfer: ArrayBuffer[];
  done(result: unknown): void;
  failed(error: Error): void;
}

interface Thread {
  worker: Worker;
  busy: Waiting | null;
  timer: ReturnType<typeof setTimeout> | null;
}

/**
 * A few threads that do what would keep other requests waiting. A task that takes more time or memory
 * than it may ends its thread, and is answered with an error; nothing else notices.
 */
export class Heavy {
  private readonly threads: Thread[] = [];
  private readonly queue: Waiting[] = [];
  private next = 1;

  constructor(private readonly file: string) {
    if (existsSync(workerFile())) return;
    throw new Error(`There is no ${workerFile()}: it is made by npm run build:threads`);
  }

  /** Runs a task in a thread. Bytes among the arguments are handed over. Rejects with an `ApiError`. */
  run<N extends keyof Tasks>(
    name: N,
    ...args: Parameters<Tasks[N]>
  ): Promise<Awaited<ReturnType<Tasks[N]>>> {
    if (this.queue.length >= WAITING) {
      return Promise.reject(new ApiError(503, "The server has too much to do. It is tried again."));
    }
    const transfer = args.flatMap((arg) =>
      arg instanceof Uint8Array && arg.byteLength === arg.buffer.byteLength
        ? [arg.buffer as ArrayBuffer]
        : [],
    );
    return new Promise((resolve, reject) => {
      this.queue.push({
        question: { number: this.next++, name, args },
        transfer,
        done: (result) => resolve(result as Awaited<ReturnType<Tasks[N]>>),
        failed: reject,
      });
      this.go();
    });
  }

  private go(): void {
    while (this.queue.length > 0) {
      const thread =
        this.threads.find((one) => !one.busy) ??
        (this.threads.length < THREADS ? this.start() : null);
      if (!thread) return;
      const task = must(this.queue.shift());
      thread.busy = task;
      const patience = task.question.name === "zip" ? PATIENCE_ALL_MS : PATIENCE_MS;
      thread.timer = setTimeout(
        () =>
          this.end(
            thread,
            new ApiError(
              503,
              `It took longer than ${patience / 1000} seconds ${GIVEN_UP}. Nothing was changed.`,
            ),
          ),
        patience,
      );
      thread.worker.postMessage(task.question, task.transfer);
    }
  }

  private start(): Thread {
    // Asked for in this way so that the bundler leaves the thread's file alone.
    const { Worker: NodeWorker } = process.getBuiltinModule("node:worker_threads");
    const worker = new NodeWorker(workerFile(), {
      workerData: { file: this.file },
      resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB },
    });
    worker.unref();
    const thread: Thread = { worker, busy: null, timer: null };
    worker.on("message", (reply: Reply) => this.answered(thread, reply));
    worker.on("error", (error: NodeJS.ErrnoException) => {
      const memory = error.code === "ERR_WORKER_OUT_OF_MEMORY";
      if (!memory) console.error(error);
      this.end(
        thread,
        memory
          ? new ApiError(413, "It holds more than can be taken in at once. Nothing was changed.")
          : new ApiError(500, "Something went wrong in the server. Nothing was changed."),
      );
    });
    worker.on("exit", () =>
      this.end(thread, new ApiError(503, "The server was interrupted. Nothing was changed.")),
    );
    this.threads.push(thread);
    return thread;
  }

  private answered(thread: Thread, reply: Reply): void {
    const task = thread.busy;
    if (!task || task.question.number !== reply.number) return;
    this.free(thread);
    if ("result" in reply) task.done(reply.result);
    else task.failed(new ApiError(reply.status, reply.message, reply.details));
    this.go();
  }

  private free(thread: Thread): void {
    if (thread.timer) clearTimeout(thread.timer);
    thread.timer = null;
    thread.busy = null;
  }

  /** Takes a thread out; what it was busy with has failed. */
  private end(thread: Thread, error: ApiError): void {
    const at = this.threads.indexOf(thread);
    if (at < 0) return;
    this.threads.splice(at, 1);
    const task = thread.busy;
    this.free(thread);
    void thread.worker.terminate();
    task?.failed(error);
    this.go();
  }

  /** Ends all threads. */
  async close(): Promise<void> {
    await Promise.all(this.threads.splice(0).map(({ worker }) => worker.terminate()));
  }
}
