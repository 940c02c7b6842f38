// npm run demo: install, build, migrate, seed and serve on 127.0.0.1, each only where it is needed.
import { createServer } from "node:net";
import { checkNode, ensureBuilt, ensureInstalled } from "./setup.mjs";
import { startServer } from "./server.mjs";

const port = Number(process.env.PORT ?? 4747);
if (!Number.isInteger(port) || port < 1 || port > 65535) {
  console.error(`PORT must be a port number, not “${process.env.PORT}”.`);
  process.exit(1);
}

checkNode();
const free = await new Promise((resolve) => {
  const probe = createServer();
  probe.once("error", () => resolve(false));
  probe.listen(port, "127.0.0.1", () => probe.close(() => resolve(true)));
});
if (!free) {
  console.error(
    `Port ${port} is in use. Stop what uses it, or choose another: PORT=4800 npm run demo`,
  );
  process.exit(1);
}
ensureInstalled();
if (!ensureBuilt()) process.exit(1);

// The server itself migrates its database and, when it is new, puts the demo projects in.
const server = await startServer({ port }).catch((error) => {
  console.error(error.message);
  process.exit(1);
});
console.log(
  `\nHailstep is at ${server.url}   (Ctrl-C stops it; your projects are kept in data/)\n`,
);
let stopping = false;
for (const signal of ["SIGINT", "SIGTERM"]) {
  process.on(signal, () => {
    stopping = true;
    void server.stop();
  });
}
await server.ended;
if (stopping) console.log("Stopped.");
process.exit(stopping ? 0 : 1);
