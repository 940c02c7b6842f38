import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { ApiError } from "@/server/errors";
import { openProject } from "@/server/requests";
import { service } from "@/server/store";
import { Desk } from "@/ui/desk";
import { LargeDesk } from "@/ui/large-desk";
import { Unreadable } from "@/ui/library/unreadable";

export const dynamic = "force-dynamic";
type Props = { params: Promise<{ id: string }> };

/** A 404 of the service is the page that says so. */
async function found<T>(work: () => T | Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof ApiError && error.status === 404) notFound();
    throw error;
  }
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { id } = await params;
  return { title: await found(() => service().nameOf(id)) };
}

export default async function ProjectPage({ params }: Props) {
  const { id } = await params;
  const opened = await found(() => openProject(id));
  if ("problem" in opened) {
    return <Unreadable id={id} name={service().nameOf(id)} problem={opened.problem} />;
  }
  return opened.stored ? <Desk stored={opened.stored} /> : <LargeDesk id={id} />;
}
