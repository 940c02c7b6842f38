const LOCAL = /^(127\.0\.0\.1|localhost|\[::1\])(:\d{1,5})?$/i;

/**
 * Why a request must be refused, or null. The server is for this machine alone: a foreign Host is
 * a name that was made to point here, a foreign Origin a page of another site using the browser.
 */
export function refusal(headers: Headers): string | null {
  const host = headers.get("host") ?? "";
  if (!LOCAL.test(host)) return `Requests for the host “${host.slice(0, 80)}” are refused`;
  const origin = headers.get("origin");
  if (origin !== null) {
    const from = /^http:\/\/(.+)$/.exec(origin)?.[1] ?? "";
    if (from.toLowerCase() !== host.toLowerCase()) {
      return `Requests from the origin “${origin.slice(0, 80)}” are refused`;
    }
  }
  if (headers.get("sec-fetch-site") === "cross-site")
    return "Requests from other sites are refused";
  return null;
}
