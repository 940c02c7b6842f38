import { answer } from "@/server/http";
import { service } from "@/server/store";

/** The bytes of a sample. They never change, since their hash is their name. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async () => {
    const { type, bytes } = service().samples.read((await params).id);
    return new Response(new Uint8Array(bytes), {
      headers: {
        "content-type": type,
        "cache-control": "private, max-age=31536000, immutable",
        "x-content-type-options": "nosniff",
      },
    });
  });
}
