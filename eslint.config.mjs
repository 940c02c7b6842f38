import next from "eslint-config-next/core-web-vitals";
import typescript from "eslint-config-next/typescript";

/** A bar is counted in the metre of its pattern: what reads the project's is named in METRE_OF_PROJECT. */
const PROJECTS = "/^(project|whole|before|after|p)$/";
const metreOfProject = [
  `MemberExpression[property.name='metre'][object.name=${PROJECTS}]`,
  "MemberExpression[property.name='metre'][object.property.name='project']",
  `VariableDeclarator[init.name=${PROJECTS}] > ObjectPattern > Property[key.name='metre']`,
  "VariableDeclarator[init.property.name='project'] > ObjectPattern > Property[key.name='metre']",
].map((selector) => ({
  selector,
  message: "Read through metreOf(project, pattern): a pattern may have a metre of its own.",
}));

/** A call of more than four is not read without looking up what is what: the rest comes by name. */
const manyParams = [
  "ExportNamedDeclaration > FunctionDeclaration[params.length>4]",
  "ExportNamedDeclaration > VariableDeclaration > VariableDeclarator > ArrowFunctionExpression[params.length>4]",
].map((selector) => ({ selector, message: "Take what is more than four by name, as an object." }));

/** Where the project's own metre is meant: what sets, keeps or shows it, and the one that answers. */
const METRE_OF_PROJECT = [
  "src/core/score/sections.ts",
  "src/core/edits/{metre,bring}.ts",
  "src/core/stored/limits.ts",
  "src/core/stored/diff.ts",
  "src/core/formats/import/song.ts",
  "src/ui/transport/metre-field.tsx",
  "src/ui/arrange/pattern-metre.tsx",
  "src/ui/commands/files/importing.ts",
  "src/ui/arrange/song-strip.tsx",
  "src/server/**",
  "**/*.test.ts",
  "e2e/**",
];

const config = [
  {
    ignores: [
      ".next/**",
      "node_modules/**",
      "build/**",
      "assembly/**",
      "public/audio-thread.js",
      "data/**",
      "test-results/**",
      "next-env.d.ts",
    ],
  },
  ...next,
  ...typescript,
  {
    rules: {
      "@typescript-eslint/no-unused-vars": [
        "error",
        { argsIgnorePattern: "^_", varsIgnorePattern: "^_" },
      ],
      "no-duplicate-imports": "error",
      "@typescript-eslint/consistent-type-imports": "error",
      eqeqeq: "error",
      "no-console": ["error", { allow: ["warn", "error"] }],
    },
  },
  { files: ["src/**"], rules: { "no-restricted-syntax": ["error", ...manyParams] } },
  {
    files: ["src/**"],
    // Demos are tables of notes.
    ignores: ["**/*.test.{ts,tsx}", "src/server/demo/**"],
    rules: { "max-lines-per-function": ["error", { max: 120 }] },
  },
  {
    files: ["src/**"],
    ignores: METRE_OF_PROJECT,
    rules: { "no-restricted-syntax": ["error", ...manyParams, ...metreOfProject] },
  },
  {
    // What changes a project is called by commands alone: see commands-are-the-only-door.
    files: ["src/ui/**", "src/app/**"],
    ignores: ["src/ui/commands/**", "src/ui/state/**", "**/*.test.ts"],
    rules: {
      "no-restricted-syntax": [
        "error",
        ...manyParams,
        ...metreOfProject,
        {
          selector:
            "CallExpression[callee.name='edit'], CallExpression[callee.property.name='edit']",
          message: "Make it a command in src/ui/commands.",
        },
      ],
      "no-restricted-imports": [
        "error",
        {
          paths: [
            {
              name: "@/core/score",
              importNames: ["changePart", "changePattern", "changeTrackOf", "withStars"],
              message: "Make it a command in src/ui/commands.",
            },
          ],
        },
      ],
    },
  },
  {
    files: ["src/ui/transport/metre-field.tsx", "src/ui/arrange/{pattern-metre,song-strip}.tsx"],
    rules: { "no-restricted-syntax": "off" },
  },
  // Playwright calls the function it hands to fixtures `use`, which is no React hook.
  { files: ["e2e/**"], rules: { "react-hooks/rules-of-hooks": "off" } },
  { files: ["scripts/**", "bench/**"], rules: { "no-console": "off" } },
];

export default config;
