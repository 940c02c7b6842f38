// Arrows point one way: app → ui → { audio, input, workers } → core, and app → server → core.
const TESTS = "\\.test(-helper)?\\.tsx?$";
const only = (from, allowed) => ({
  name: `${from}-imports`,
  severity: "error",
  from: { path: `^src/${from}/`, pathNot: TESTS },
  to: { path: "^src/", pathNot: `^src/(${[from, ...allowed].join("|")})/` },
});

// The rooms of the core, in order: each may use those before it, none after.
const CORE = [
  ...["base", "time", "pitch", "sound", "params", "score", "groove", "transforms", "playback"],
  ...["generate", "listen", "analysis", "perform", "stored", "edits", "formats"],
];
const coreRoom = (name, i) => ({
  name: `core-${name}-imports`,
  severity: "error",
  from: { path: `^src/core/${name}/`, pathNot: TESTS },
  to: { path: "^src/core/", pathNot: `^src/core/(${CORE.slice(0, i + 1).join("|")})/` },
});

// A room is known outside by its face alone.
const face = (name) => ({
  name: `core-${name}-by-its-face`,
  severity: "error",
  from: { path: "^(src|e2e|bench|fuzz)/", pathNot: `^src/core/${name}/` },
  to: {
    path: `^src/core/${name}/`,
    pathNot: [`^src/core/${name}/index\\.ts$`, "\\.test-helper\\.ts$"],
  },
});

// Inside a room of the core, in the same way.
const inside = (parent, rooms) =>
  rooms.map((name, i) => ({
    name: `${parent.replaceAll("/", "-")}-${name}-imports`,
    severity: "error",
    from: { path: `^src/${parent}/${name}/`, pathNot: TESTS },
    to: {
      path: `^src/${parent}/`,
      pathNot: `^src/${parent}/(${rooms.slice(0, i + 1).join("|")})/`,
    },
  }));

// The rooms of the interface, from the ground up. Each may use what stands below it, none what
// stands above or beside it, but for the gathering panels and what is said here.
const GROUND = ["person", "controls", "geometry", "saving"];
const STATE = [...GROUND, "state"];
const MIDDLE = ["session", "paint", "library"];
const PANELS = [
  ...[
    "arrange",
    "sheet",
    "chords",
    "perform",
    "ideas",
    "bench",
    "mixer",
    "actions",
    "files",
    "help",
  ],
];
const GATHERING = ["foot", "transport", "settings"];
const room = (name, allowed) => ({
  name: `ui-${name}-imports`,
  severity: "error",
  from: { path: `^src/ui/${name}/`, pathNot: TESTS },
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
    ...CORE.map(coreRoom),
    ...CORE.map(face),
    // Files beside these rooms gather them.
    ...inside("core/generate", [
      ...["common", "rhythm", "line", "chords", "phrase", "accompany", "drums", "judge"],
    ]),
    ...inside("core/formats", [
      ...["container", "common", "import", "sound", "picture", "project", "smf", "musicxml"],
    ]),
    {
      name: "midi-reader-knows-no-writer",
      comment: "What readers share is in formats/import.",
      severity: "error",
      from: { path: "^src/core/formats/smf/(read|voices?|events|head)", pathNot: TESTS },
      to: { path: "^src/core/formats/smf/write" },
    },
    {
      name: "musicxml-knows-no-midi",
      severity: "error",
      from: { path: "^src/core/formats/musicxml/", pathNot: TESTS },
      to: { path: "^src/core/formats/smf/" },
    },
    {
      name: "commands-are-the-only-door",
      comment:
        "What a person does to a project is a command: one rule and one undo label for each deed.",
      severity: "error",
      from: {
        path: "^src/(ui|app|audio|input|workers)/",
        pathNot: ["^src/ui/commands/", TESTS],
      },
      to: { path: "^src/core/edits/" },
    },
    {
      name: "barrel-for-the-outside",
      comment:
        "Inside the project a room is imported by its own face: it loads in a fraction of the time.",
      severity: "error",
      from: { path: "^src/", pathNot: "^src/core/index\\.test\\.ts$" },
      to: { path: "^src/core/index\\.ts$" },
    },
    ...GROUND.map((name) => room(name, name === "controls" ? ["person"] : [])),
    room("state", GROUND),
    ...MIDDLE.map((name) => room(name, STATE)),
    room("commands", [...STATE, "session"]),
    room("fields", [...STATE, ...MIDDLE, "commands"]),
    ...PANELS.map((name) => room(name, [...STATE, ...MIDDLE, "commands", "fields"])),
    ...GATHERING.map((name) => room(name, [...STATE, ...MIDDLE, "commands", "fields", ...PANELS])),
    {
      name: "geometry-and-paint-know-no-session",
      comment: "What lies where, and what is drawn, are functions of what is handed in.",
      severity: "error",
      from: { path: "^src/ui/(geometry|paint)/", pathNot: TESTS },
      to: { path: ["^src/audio/", "^src/workers/", "node_modules/(react|zustand|tone|sonner)/"] },
    },
    {
      name: "state-and-commands-without-react",
      comment: "A command is given the store, which is plain data: no React, and nothing drawn.",
      severity: "error",
      from: { path: "^src/ui/(state|commands)/", pathNot: TESTS },
      to: { path: "node_modules/(react|react-dom)/" },
    },
    only("server", ["core"]),
    {
      name: "core-is-pure",
      comment: "The core knows no interface, no browser, no server, no audio.",
      severity: "error",
      from: { path: "^src/core/", pathNot: TESTS },
      to: {
        path: "node_modules/(react|next|tone|zustand|drizzle-orm|better-sqlite3)",
        dependencyTypesNot: ["type-only"],
      },
    },
    {
      name: "core-without-node",
      severity: "error",
      from: { path: "^src/core/", pathNot: TESTS },
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
