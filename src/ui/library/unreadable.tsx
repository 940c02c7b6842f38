"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { api, rawExport } from "../saving/api";

/** In place of a project that cannot be opened: why, and what can be done with it. */
export function Unreadable({ id, name, problem }: { id: string; name: string; problem: string }) {
  const router = useRouter();
  const [failed, setFailed] = useState("");
  const remove = async () => {
    try {
      await api.remove(id);
      router.push("/");
    } catch (error) {
      setFailed((error as Error).message);
    }
  };
  return (
    <main className="mx-auto flex min-h-full max-w-lg flex-col justify-center gap-4 p-8">
      <h1 className="text-2xl font-semibold">“{name}” cannot be opened</h1>
      <p>{problem}</p>
      <p className="quiet">
        Nothing of it was changed, and all other projects are as they were. What is kept of it can
        be saved as a file.
      </p>
      {failed && (
        <p role="alert" className="text-error">
          {failed}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Link href="/" className="btn btn-primary">
          Go to the library
        </Link>
        <a className="btn" href={rawExport(id)} download>
          Export it as it is kept
        </a>
        <button className="btn" onClick={() => void remove()}>
          Delete it
        </button>
      </div>
    </main>
  );
}
