import type { NextConfig } from "next";

/** On every answer. Pages get their policy for scripts, with a nonce, from the proxy. */
const ALWAYS = [
  { key: "x-content-type-options", value: "nosniff" },
  { key: "referrer-policy", value: "no-referrer" },
  { key: "x-frame-options", value: "DENY" },
  { key: "cross-origin-opener-policy", value: "same-origin" },
  { key: "cross-origin-resource-policy", value: "same-origin" },
];
const NOTHING = "default-src 'none'; frame-ancestors 'none'";

const config: NextConfig = {
  poweredByHeader: false,
  devIndicators: false,
  // For the same machine: making answers smaller would only take time, for a large file half a minute.
  compress: false,
  serverExternalPackages: ["better-sqlite3"],
  headers: () =>
    Promise.resolve([
      { source: "/:path*", headers: ALWAYS },
      { source: "/api/:path*", headers: [{ key: "content-security-policy", value: NOTHING }] },
    ]),
  // The folder of this file, so that a lock file further up does not move the root.
  turbopack: { root: import.meta.dirname },
  outputFileTracingRoot: import.meta.dirname,
};

export default config;
