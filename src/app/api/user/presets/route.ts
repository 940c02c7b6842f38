import { answer, readJson } from "@/server/http";
import { user } from "@/server/store";

/** Body: `{ transform, name, params }`. A preset of the same transform and name is replaced. */
export function POST(request: Request) {
  return answer(request, async () =>
    Response.json(user().addPreset(await readJson(request)), { status: 201 }),
  );
}
