"use client";
import { useEffect, useState } from "react";
import type { StoredProject } from "@/core/stored";
import { api } from "./saving/api";
import { Desk } from "./desk";

/** Fetches a project that is too large to come with the page, then opens it. */
export function LargeDesk({ id }: { id: string }) {
  const [stored, setStored] = useState<StoredProject | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [tries, setTries] = useState(0);
  useEffect(() => {
    let gone = false;
    api.read(id).then(
      (found) => !gone && setStored(found),
      (error: Error) => !gone && setFailed(error.message),
    );
    return () => {
      gone = true;
    };
  }, [id, tries]);
  if (stored) return <Desk stored={stored} />;
  return (
    <main className="grid min-h-dvh place-items-center p-8">
      {failed ? (
        <p role="alert">
          {failed}.{" "}
          <button
            className="link"
            onClick={() => {
              setFailed(null);
              setTries(tries + 1);
            }}
          >
            Try again
          </button>
        </p>
      ) : (
        <p role="status" className="quiet">
          Opening the project …
        </p>
      )}
    </main>
  );
}
