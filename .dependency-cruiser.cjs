// Arrows point one way: app → ui → { audio, input, workers } → core, and app → server → core.
const only = (from, allowed) => ({
  name: `${from}-imports`,
  severity: "error",
  from: { path: `^src/${from}/`, pathNot: "\\.test\\.ts$" },
  to: { path: "^src/", pathNot: `^src/(${[from, ...allowed].join("|")})/` },
});

/** @type {import("dependency-cruiser").IConfiguration} */
module.exports = {
  forbidden: [
    only("core", []),
    only("audio", ["core", "workers"]),
    only("workers", ["audio", "core"]),
    only("ui", ["audio", "input", "workers", "core"]),
    only("server", ["core"]),
    {
      name: "core-is-pure",
      comment: "The core knows no interface, no browser, no server, no audio.",
      severity: "error",
      from: { path: "^src/core/", pathNot: "\\.test(-helper)?\\.ts$" },
      to: {
        path: "node_modules/(react|next|tone|zustand|drizzle-orm|better-sqlite3)",
        dependencyTypesNot: ["type-only"],
      },
    },
    {
      name: "core-without-node",
      severity: "error",
      from: { path: "^src/core/", pathNot: "\\.test\\.ts$" },
      to: { dependencyTypes: ["core"] },
    },
    { name: "no-cycles", severity: "error", from: {}, to: { circular: true } },
  ],
  options: {
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    doNotFollow: { path: "node_modules" },
  },
};
