import { service } from "@/server/store";
import { Library } from "@/ui/library/library";

export const dynamic = "force-dynamic";

export default function LibraryPage() {
  return <Library cards={service().list()} />;
}
