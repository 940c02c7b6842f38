import { clamp } from "@/core/base";
import { ApiError, isBusy } from "./errors";
import { refusal } from "./guard";
import { parseJson } from "./json";
import { problemOf } from "./problem";

const MB = 1024 * 1024;
/** Largest body of a change, in bytes. */
export const MAX_BODY = 16 * MB;
/** Largest sample. */
export const MAX_SAMPLE = 20 * MB;
/** Largest file to import: a project brings its samples along as text, 192 MB of them at most. */
export const MAX_IMPORT = 288 * MB;
/** What is larger is read and checked in a thread of its own. */
export const LITTLE = 128 * 1024;

/** Runs a route handler: refuses foreign requests, and turns errors into JSON with their status. */
export async function answer(
  request: Request,
  handler: () => Response | Promise<Response>,
): Promise<Response> {
  const refused = refusal(request.headers);
  if (refused) return problem(403, refused);
  try {
    return await patiently(handler);
  } catch (error) {
    const { status, message, details } = problemOf(error);
    return problem(status, message, details);
  }
}

/** A lock of the database is waited for so long, looked at again every so often. */
const PATIENCE_MS = 3000;
const AGAIN_MS = 30;

/** Runs a handler again while the database is being written elsewhere: nobody else waits meanwhile. */
async function patiently<T>(handler: () => T | Promise<T>): Promise<T> {
  const until = Date.now() + PATIENCE_MS;
  for (;;) {
    try {
      return await handler();
    } catch (error) {
      if (!isBusy(error) || Date.now() > until) throw error;
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  }
}

function problem(status: number, error: string, details: Record<string, unknown> = {}): Response {
  return Response.json({ error, ...details }, { status });
}

const bodies = new WeakMap<Request, Promise<Uint8Array<ArrayBuffer>>>();

/**
 * Reads a body of at most `most` bytes; more is refused with 413 before it is all read. Read again, it is
 * the same.
 */
export function readBytes(request: Request, most = MAX_BODY): Promise<Uint8Array<ArrayBuffer>> {
  const read = bodies.get(request) ?? readAll(request, most);
  bodies.set(request, read);
  return read;
}

async function readAll(request: Request, most: number): Promise<Uint8Array<ArrayBuffer>> {
  const announced = Number(request.headers.get("content-length") ?? 0);
  const tooLarge = () =>
    new ApiError(413, `The file is larger than ${most / MB} MB, which is the most`);
  if (announced > most) throw tooLarge();
  // What is announced is put in its place as it comes: to put it together at the end would hold up others.
  let whole = new Uint8Array(announced);
  let size = 0;
  const reader = request.body?.getReader();
  for (let chunk = await reader?.read(); chunk && !chunk.done; chunk = await reader?.read()) {
    const bytes = chunk.value as Uint8Array;
    if (size + bytes.length > most) {
      await reader?.cancel();
      throw tooLarge();
    }
    if (size + bytes.length > whole.length) whole = grown(whole, size + bytes.length, most);
    whole.set(bytes, size);
    size += bytes.length;
  }
  return size === whole.length ? whole : whole.slice(0, size);
}

function grown(bytes: Uint8Array, least: number, most: number): Uint8Array<ArrayBuffer> {
  const larger = new Uint8Array(clamp(2 * bytes.length, least, most));
  larger.set(bytes);
  return larger;
}

/** Reads a JSON body that is meant to be little; 400 where it is none, 413 where it is large. */
export async function readJson(request: Request): Promise<unknown> {
  return parseJson(await readBytes(request, LITTLE));
}

const PIECE = 256 * 1024;

/** Bytes to be answered with: many of them piece by piece, so that others are answered in between. */
function pieces(bytes: Uint8Array<ArrayBuffer>): BodyInit {
  if (bytes.length <= PIECE) return bytes;
  let at = 0;
  return new ReadableStream<Uint8Array>(
    {
      pull(controller) {
        controller.enqueue(bytes.subarray(at, (at += PIECE)));
        if (at >= bytes.length) controller.close();
      },
    },
    { highWaterMark: 1 },
  );
}

/** Bytes that are JSON already. */
export const jsonBytes = (bytes: Uint8Array<ArrayBuffer>, status = 200): Response =>
  new Response(pieces(bytes), { status, headers: { "content-type": "application/json" } });

/** An answer that is saved as a file under a name. */
export function fileAnswer(
  body: Uint8Array<ArrayBuffer> | ReadableStream | string,
  name: string,
  ending: string,
  type: string,
): Response {
  const plain = name.replace(/[^\w -]+/g, "_").trim() || "project";
  const full = encodeURIComponent(`${name.toWellFormed()}.${ending}`);
  return new Response(body instanceof Uint8Array ? pieces(body) : body, {
    headers: {
      "content-type": type,
      "content-disposition": `attachment; filename="${plain}.${ending}"; filename*=UTF-8''${full}`,
    },
  });
}
