import { pageWithSummaries } from "@/server/summaries";
import { Home } from "@/ui/home";

export const dynamic = "force-dynamic";

export default function LibraryPage() {
  return <Home first={pageWithSummaries()} />;
}
