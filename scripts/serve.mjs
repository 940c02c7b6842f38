// The production server: Next behind a small HTTP server of our own, which refuses what cannot be routed,
// names a port in use, and ends within seconds when it is asked to.
import { createServer } from "node:http";
import path from "node:path";
import { fileURLToPath } from "node:url";
import next from "next";

const ROOT = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
process.chdir(ROOT);
process.env.NODE_ENV = "production";
const hostname = "127.0.0.1";
const port = Number(process.env.PORT ?? 4747);
/** Requests that are under way get so long to end. */
const LAST_MS = 2000;

const METHODS = new Set(["GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"]);

/** Why a request cannot be routed: its status and a sentence, or null. */
function unroutable({ method = "", url = "" }) {
  if (!METHODS.has(method)) return [405, `The method ${method.slice(0, 20)} is not known here`];
  try {
    decodeURIComponent(url.split("?")[0]);
    new URL(url, "http://127.0.0.1");
  } catch {
    return [400, "The address is not valid: its percent-encoding is broken"];
  }
  return null;
}

function refuse(response, [status, error]) {
  response.writeHead(status, {
    "content-type": "application/json",
    "x-content-type-options": "nosniff",
    connection: "close",
  });
  response.end(JSON.stringify({ error }));
}

let handle = null;
let stopping = false;
const server = createServer((request, response) => {
  const wrong = unroutable(request);
  if (wrong) return refuse(response, wrong);
  if (stopping) return refuse(response, [503, "The server is being stopped. It is tried again."]);
  handle(request, response).catch((error) => {
    console.error(error);
    if (!response.headersSent) refuse(response, [500, "Something went wrong in the server"]);
    else response.destroy();
  });
});
server.on("clientError", (_, socket) => {
  if (socket.writable) socket.end("HTTP/1.1 400 Bad Request\r\nConnection: close\r\n\r\n");
});
server.on("error", (error) => {
  const used = error.code === "EADDRINUSE";
  console.error(
    used
      ? `\nPort ${port} is in use. Stop what uses it, or choose another: PORT=4800 npm start\n`
      : error,
  );
  process.exit(1);
});

for (const signal of ["SIGINT", "SIGTERM"]) {
  process.on(signal, () => {
    if (stopping) return;
    stopping = true;
    // What is being written is done or not begun; new requests are told to come again.
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), LAST_MS);
  });
}

// The port first: that it is in use is known at once, before anything is opened.
server.listen(port, hostname, async () => {
  const app = next({ dev: false, dir: ROOT, hostname, port, httpServer: server });
  handle = async (request, response) => {
    await ready;
    return app.getRequestHandler()(request, response);
  };
  const ready = app.prepare();
  try {
    await ready;
  } catch (error) {
    console.error(`\nThe server could not start. ${error.message}\n`);
    process.exit(1);
  }
  if (process.env.HAILSTEP_QUIET !== "1") console.log(`Hailstep is at http://${hostname}:${port}`);
});
