import fc from "fast-check";
import { expect, it } from "vitest";
import { Places } from "./places";

it("places are told as new once, as a set of the language does, however many and wherever they are", () => {
  const start = fc.oneof(
    fc.integer({ min: -40, max: 40 }),
    fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 }),
  );
  fc.assert(
    fc.property(
      fc.nat(20),
      fc.array(fc.tuple(start, fc.constantFrom(0, 1, 60, 127)), { maxLength: 300 }),
      (space, list) => {
        const places = new Places(space);
        const set = new Set<string>();
        for (const [at, pitch] of list) {
          const name = `${at} ${pitch}`;
          expect(places.add(at, pitch)).toBe(!set.has(name));
          set.add(name);
        }
      },
    ),
  );
});
