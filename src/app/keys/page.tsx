import type { Metadata } from "next";
import { KeysPage } from "@/ui/settings/keys-page";

export const metadata: Metadata = { title: "Keys" };
export const dynamic = "force-dynamic";

export default function Page() {
  return <KeysPage />;
}
