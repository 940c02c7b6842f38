import { pageWithSummaries } from "@/server/summaries";
import { Library } from "@/ui/library/library";

export const dynamic = "force-dynamic";

export default function LibraryPage() {
  return <Library first={pageWithSummaries()} />;
}
