import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { ApiError } from "@/server/errors";
import { service } from "@/server/store";
import { Desk } from "@/ui/desk";

export const dynamic = "force-dynamic";
type Props = { params: Promise<{ id: string }> };

function find(id: string) {
  try {
    return service().read(id);
  } catch (error) {
    if (error instanceof ApiError && error.status === 404) notFound();
    throw error;
  }
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: find((await params).id).project.name };
}

export default async function ProjectPage({ params }: Props) {
  return <Desk stored={find((await params).id)} />;
}
