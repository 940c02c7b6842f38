import { FormatError, ProjectError } from "@/core";
import { ApiError } from "./errors";
import { refusal } from "./guard";

const MB = 1024 * 1024;
/** Largest body of a change, in bytes. */
export const MAX_BODY = 16 * MB;
/** Largest sample. */
export const MAX_SAMPLE = 20 * MB;
/** Largest file to import: a project may bring several samples along, as text. */
export const MAX_IMPORT = 160 * MB;

/** Runs a route handler: refuses foreign requests, and turns errors into JSON with their status. */
export async function answer(
  request: Request,
  handler: () => Response | Promise<Response>,
): Promise<Response> {
  const refused = refusal(request.headers);
  if (refused) return problem(403, refused);
  try {
    return await handler();
  } catch (error) {
    if (error instanceof ApiError) return problem(error.status, error.message, error.details);
    if (error instanceof ProjectError)
      return problem(422, error.message, { problems: error.problems });
    if (error instanceof FormatError) return problem(400, error.message);
    if (error instanceof RangeError) return problem(422, error.message);
    console.error(error);
    return problem(500, "Something went wrong in the server. Nothing was changed.");
  }
}

function problem(status: number, error: string, details: Record<string, unknown> = {}): Response {
  return Response.json({ error, ...details }, { status });
}

/** Reads a body of at most `most` bytes; more is refused with 413 before it is all read. */
export async function readBytes(
  request: Request,
  most = MAX_BODY,
): Promise<Uint8Array<ArrayBuffer>> {
  const announced = Number(request.headers.get("content-length") ?? 0);
  const tooLarge = () =>
    new ApiError(413, `The file is larger than ${most / MB} MB, which is the most`);
  if (announced > most) throw tooLarge();
  const chunks: Uint8Array[] = [];
  let size = 0;
  const reader = request.body?.getReader();
  for (let chunk = await reader?.read(); chunk && !chunk.done; chunk = await reader?.read()) {
    const bytes = chunk.value as Uint8Array;
    size += bytes.length;
    if (size > most) {
      await reader?.cancel();
      throw tooLarge();
    }
    chunks.push(bytes);
  }
  const whole = new Uint8Array(size);
  let at = 0;
  for (const chunk of chunks) {
    whole.set(chunk, at);
    at += chunk.length;
  }
  return whole;
}

/** Reads a JSON body; 400 where it is none. */
export async function readJson(request: Request): Promise<unknown> {
  const text = new TextDecoder().decode(await readBytes(request));
  try {
    return JSON.parse(text);
  } catch {
    throw new ApiError(400, "The request holds no valid JSON");
  }
}
