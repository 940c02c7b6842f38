import { NextResponse, type NextRequest } from "next/server";
import { refusal } from "@/server/guard";

/** Refuses pages to foreign hosts. Route handlers check for themselves, so bodies pass untouched. */
export function proxy(request: NextRequest) {
  const refused = refusal(request.headers);
  return refused ? new NextResponse(refused, { status: 403 }) : NextResponse.next();
}

export const config = { matcher: ["/((?!api/|_next/static).*)"] };
