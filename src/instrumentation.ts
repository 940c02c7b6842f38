/** Opens, migrates and seeds the database when the server starts, not at the first request. */
export async function register() {
  if (process.env.NEXT_RUNTIME !== "nodejs") return;
  const { start } = await import("@/server/start");
  start();
}
