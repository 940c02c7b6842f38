import { ProjectError } from "@/core/stored";
import { FormatError } from "@/core/formats";
import { ApiError, storageError } from "./errors";

/** What a client is told of an error: status, sentence, details. */
export interface ToldProblem {
  status: number;
  message: string;
  details: Record<string, unknown>;
}

/** How an error is told. One that is nobody's input is logged, and not told in detail. */
export function problemOf(error: unknown): ToldProblem {
  const problemResponse = (
    status: number,
    message: string,
    details: Record<string, unknown> = {},
  ) => ({
    status,
    message,
    details,
  });
  if (error instanceof ApiError) return problemResponse(error.status, error.message, error.details);
  if (error instanceof ProjectError)
    return problemResponse(422, error.message, { problems: [...error.problems] });
  if (error instanceof FormatError) return problemResponse(400, error.message);
  const storage = storageError(error);
  if (storage) {
    console.error(storage.message);
    return problemResponse(storage.status, storage.message);
  }
  if (error instanceof RangeError) return problemResponse(422, error.message.slice(0, 500));
  console.error(error);
  return problemResponse(500, "Something went wrong in the server. Nothing was changed.");
}
