import { describe, expect, it, vi } from "vitest";
import { Listening } from "./listening";
import { readIntake } from "./importing";

describe("a file of 200 MB", () => {
  it("is refused before a byte of it is read, as a file and as a sound", async () => {
    const arrayBuffer = vi.fn();
    const large = (name: string) =>
      ({ name, size: 200 * 1024 * 1024, arrayBuffer }) as unknown as File;
    await expect(readIntake(large("tide.mid"))).rejects.toThrow(/200 MB; at most 64/);
    await expect(Listening.open(large("tide.wav"), { beats: 4, unit: 4 })).rejects.toThrow(
      /200 MB large; at most 20/,
    );
    expect(arrayBuffer).not.toHaveBeenCalled();
  });
});
