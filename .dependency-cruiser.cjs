// Arrows point one way: app → ui → { audio, input, workers } → core, and app → server → core.
const only = (from, allowed) => ({
  name: `${from}-imports`,
  severity: "error",
  from: { path: `^src/${from}/`, pathNot: "\\.test\\.ts$" },
  to: { path: "^src/", pathNot: `^src/(${[from, ...allowed].join("|")})/` },
});

// The rooms of the interface, from the ground up. Each may use what stands below it, none what
// stands above or beside it, but for the gathering panels and what is said here.
const GROUND = ["controls", "geometry", "saving"];
const MIDDLE = ["session", "paint", "library"];
const PANELS = [
  "arrange",
  "sheet",
  "chords",
  "entry",
  "ideas",
  "bench",
  "mixer",
  "actions",
  "play",
  "files",
];
const GATHERING = ["foot", "transport"];
const room = (name, allowed) => ({
  name: `ui-${name}-imports`,
  severity: "error",
  from: { path: `^src/ui/${name}/`, pathNot: "\\.test\\.tsx?$" },
  to: { path: "^src/ui/", pathNot: `^src/ui/(${[name, ...allowed].join("|")})/` },
});

/** @type {import("dependency-cruiser").IConfiguration} */
module.exports = {
  forbidden: [
    only("core", []),
    only("audio", ["core", "workers"]),
    only("workers", ["audio", "core"]),
    only("input", ["core"]),
    only("ui", ["audio", "input", "workers", "core"]),
    ...GROUND.map((name) => room(name, [])),
    ...MIDDLE.map((name) => room(name, GROUND)),
    room("commands", [...GROUND, "session"]),
    ...PANELS.map((name) => room(name, [...GROUND, ...MIDDLE, "commands"])),
    ...GATHERING.map((name) => room(name, [...GROUND, ...MIDDLE, "commands", ...PANELS])),
    {
      name: "geometry-and-paint-know-no-session",
      comment: "What lies where, and what is drawn, are functions of what is handed in.",
      severity: "error",
      from: { path: "^src/ui/(geometry|paint)/", pathNot: "\\.test\\.ts$" },
      to: { path: ["^src/audio/", "^src/workers/", "node_modules/(react|zustand|tone|sonner)/"] },
    },
    {
      name: "commands-without-react",
      comment: "A command is given the store: no React, and nothing drawn.",
      severity: "error",
      from: { path: "^src/ui/commands/", pathNot: "\\.test\\.ts$" },
      to: { path: "node_modules/(react|react-dom)/" },
    },
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
