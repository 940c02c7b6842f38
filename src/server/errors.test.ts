import { expect, it, vi } from "vitest";
import { problemOf } from "./problem";

it("an error that another copy of the module made is told as one of our own", async () => {
  vi.resetModules();
  const other = await import("./errors");
  const told = problemOf(new other.ApiError(422, "No", { known: 1 }));
  expect(told).toEqual({ status: 422, message: "No", details: { known: 1 } });
  vi.spyOn(console, "error").mockReturnValue(undefined);
  expect(problemOf(new TypeError("No")).status).toBe(500);
});
