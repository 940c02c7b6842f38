import { answer, readJson } from "@/server/http";
import { user } from "@/server/store";

/** Body: `{ recent, pinned }`, lists of grids. */
export function PUT(request: Request) {
  return answer(request, async () => Response.json(user().setGrids(await readJson(request))));
}
