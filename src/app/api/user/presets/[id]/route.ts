import { answer } from "@/server/http";
import { user } from "@/server/store";

export function DELETE(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async () => {
    user().removePreset((await params).id);
    return Response.json({ deleted: true });
  });
}
