import { answer } from "@/server/http";
import { user } from "@/server/store";

export const dynamic = "force-dynamic";

/** Recent grids, pinned grids and presets of this user. */
export function GET(request: Request) {
  return answer(request, () => Response.json({ grids: user().grids(), presets: user().presets() }));
}
