import { parentPort, workerData } from "node:worker_threads";
import { openPrepared } from "../database";
import { problemOf } from "../problem";
import { ProjectService } from "../projects";
import { tasks, type Tasks } from "./tasks";

/** What a thread is asked, and what it answers. */
export interface Question {
  number: number;
  name: keyof Tasks;
  args: unknown[];
}
export type Reply =
  | { number: number; result: unknown }
  | { number: number; status: number; message: string; details: Record<string, unknown> };

const port = parentPort!;
const known = tasks(new ProjectService(openPrepared((workerData as { file: string }).file)));

port.on("message", (question: Question) => void work(question));

async function work({ number, name, args }: Question): Promise<void> {
  try {
    const task = known[name] as (...args: unknown[]) => unknown;
    const result = await task(...args);
    port.postMessage({ number, result }, buffersOf(result));
  } catch (error) {
    port.postMessage({ number, ...problemOf(error) });
  }
}

/** Bytes are handed over, not copied. */
function buffersOf(result: unknown): ArrayBuffer[] {
  const body = result instanceof Uint8Array ? result : (result as { body?: unknown } | null)?.body;
  if (!(body instanceof Uint8Array) || body.byteLength !== body.buffer.byteLength) return [];
  return [body.buffer as ArrayBuffer];
}
