import { existsSync, readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";

/** Licences under which a part may be shipped inside a product under MIT: permissive ones alone. */
const PERMISSIVE = new Set([
  "MIT",
  "MIT-0",
  "ISC",
  "0BSD",
  "BSD-2-Clause",
  "BSD-3-Clause",
  "Apache-2.0",
  "BlueOak-1.0.0",
  "CC0-1.0",
  "Unlicense",
  "Zlib",
  "Python-2.0",
  // Data of the browsers' support tables, and fonts.
  "CC-BY-4.0",
  "OFL-1.1",
]);

/**
 * Whether a licence expression (SPDX 2.3, annex D) can be met with permissive licences alone: one
 * side of an OR, both of an AND.
 */
export function isPermissive(expression: string): boolean {
  const plain = expression.replace(/[()]/g, " ").trim();
  return plain
    .split(/\s+OR\s+/)
    .some((side) => side.split(/\s+AND\s+/).every((one) => PERMISSIVE.has(one.trim())));
}

interface Manifest {
  name: string;
  version: string;
  license?: string | { type: string };
  dependencies?: Record<string, string>;
  optionalDependencies?: Record<string, string>;
}

const ROOT = path.resolve(import.meta.dirname, "..");
const read = (folder: string) =>
  JSON.parse(readFileSync(path.join(folder, "package.json"), "utf8")) as Manifest;

/** Where a package that another one asks for lies: in its own folder or in one further up. */
function folderOf(name: string, from: string): string | null {
  for (let at = from; at.startsWith(ROOT); at = path.dirname(at)) {
    const folder = path.join(at, "node_modules", name);
    if (existsSync(path.join(folder, "package.json"))) return folder;
  }
  return null;
}

/** All packages that the product is made of, with those they need, by name and version. */
function shipped(): Map<string, string> {
  const found = new Map<string, string>();
  const visit = (folder: string): void => {
    const { name, version, license, dependencies, optionalDependencies } = read(folder);
    const key = `${name}@${version}`;
    if (folder !== ROOT) {
      if (found.has(key)) return;
      found.set(key, typeof license === "string" ? license : (license?.type ?? "none"));
    }
    for (const wanted of Object.keys({ ...dependencies, ...optionalDependencies })) {
      // What is meant for another system is not installed.
      const next = folderOf(wanted, folder);
      if (next) visit(next);
    }
  };
  visit(ROOT);
  return found;
}

describe("what the product is made of", () => {
  it("is under permissive licences, each package and each that it needs", () => {
    const packages = shipped();
    expect(packages.size).toBeGreaterThan(60);
    const others = [...packages].filter(([, licence]) => !isPermissive(licence));
    // Libraries that work on pictures come with the framework and are loaded only where pictures
    // are resized, which this product never does: weak copyleft, unchanged, replaceable.
    const asked = others.filter(([name]) => !/^@img\/sharp-/.test(name));
    expect(asked).toEqual([]);
  });

  it("would be refused under others", () => {
    expect(["MIT", "(MIT OR GPL-3.0)", "MIT AND ISC"].map(isPermissive)).toEqual([
      true,
      true,
      true,
    ]);
    for (const licence of [
      "GPL-3.0",
      "AGPL-3.0",
      "none",
      "SEE LICENSE IN LICENSE",
      "MIT AND GPL-2.0",
    ]) {
      expect(isPermissive(licence), licence).toBe(false);
    }
  });
});
