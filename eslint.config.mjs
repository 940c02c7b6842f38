import next from "eslint-config-next/core-web-vitals";
import typescript from "eslint-config-next/typescript";

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
  // Playwright calls the function it hands to fixtures `use`, which is no React hook.
  { files: ["e2e/**"], rules: { "react-hooks/rules-of-hooks": "off" } },
  { files: ["scripts/**", "bench/**"], rules: { "no-console": "off" } },
];

export default config;
