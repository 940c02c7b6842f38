import { NextResponse, type NextRequest } from "next/server";
import { contentPolicy } from "@/server/headers";
import { refusal } from "@/server/guard";

/**
 * Refuses pages to foreign hosts, and gives each page a nonce for the scripts it may run. Route handlers
 * check for themselves, so bodies pass untouched.
 */
export function proxy(request: NextRequest) {
  const refused = refusal(request.headers);
  if (refused) return new NextResponse(refusedPage(refused), { status: 403, headers: PLAIN });
  const nonce = btoa(crypto.randomUUID());
  const policy = contentPolicy(nonce);
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", policy);
  return response;
}

const PLAIN = { "content-type": "text/html; charset=utf-8" };

/** A link on another site leads here: the page itself may be opened by its address. */
const refusedPage = (why: string) => `<!doctype html>
<title>Hailstep</title>
<p>${why.replace(/[<>&]/g, "")}.</p>
<p>Hailstep is for this machine alone and is not opened from other sites. Open it by its own address,
typed or from a bookmark: <a href="/" rel="noreferrer">the library</a>.</p>
`;

export const config = { matcher: ["/((?!api/|_next/static).*)"] };
