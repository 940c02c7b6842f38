import type { Metadata } from "next";
import { SettingsPage } from "@/ui/settings/settings-page";

export const metadata: Metadata = { title: "Settings" };
export const dynamic = "force-dynamic";
type Props = { searchParams: Promise<Record<string, string | string[] | undefined>> };

/** `?from=` is the project one came from. */
export default async function Page({ searchParams }: Props) {
  const { from } = await searchParams;
  const known = typeof from === "string" && /^[\w-]{1,40}$/.test(from);
  return <SettingsPage from={known ? `/p/${from}` : null} />;
}
