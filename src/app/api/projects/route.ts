import * as yup from "yup";
import { problemsOf } from "@/core/params";
import { parseProject } from "@/core/stored";
import { LIMITS, createProject } from "@/core/score";
import { refuse } from "@/server/change";
import { answer, readJson } from "@/server/http";
import { parseLibraryQuery } from "@/server/library";
import { service } from "@/server/store";
import { pageWithSummaries } from "@/server/summaries";

export const dynamic = "force-dynamic";

/** A project to begin with, or an empty one. A name that is given is its name; without one it gets the next that is free. */
const newSchema = yup
  .object({
    name: yup.string().strict().trim().min(1).max(LIMITS.name).optional(),
    // Checked against the whole model by itself.
    project: yup.mixed().optional(),
  })
  .strict()
  .noUnknown("has unknown fields: ${unknown}")
  .required();

/** `?search=&sort=changed|name|tempo&offset=&limit=&deleted=yes`: a page of the library. */
export function GET(request: Request) {
  return answer(request, () => {
    const query = parseLibraryQuery(Object.fromEntries(new URL(request.url).searchParams));
    const { cards, total, deleted } = pageWithSummaries(query);
    return Response.json({ projects: cards, total, deleted });
  });
}

export function POST(request: Request) {
  return answer(request, async () => {
    const body = await readJson(request);
    refuse(problemsOf(newSchema, body));
    const { name: asked, project } = body as { name?: string; project?: unknown };
    const first = project === undefined ? createProject() : parseProject(project);
    const name = asked ?? service().freeName(project === undefined ? "New project" : first.name);
    return Response.json(service().create({ ...first, name }), { status: 201 });
  });
}
