"use client";
import { useRouter } from "next/navigation";
import { Upload } from "lucide-react";
import { useRef } from "react";
import { READABLE } from "@/core";
import { importFile } from "../saving/import";
import { useCalled } from "../session/called";

/** Takes a file in as another project. */
export function ImportButton() {
  const router = useRouter();
  const picker = useRef<HTMLInputElement>(null);
  useCalled("import-file", () => picker.current?.click());
  const take = async (file: File | undefined) => {
    const id = file && (await importFile(file));
    if (id) router.push(`/p/${id}`);
  };
  return (
    <>
      <button
        className="btn btn-ghost btn-sm px-1.5"
        aria-label="Import a file"
        title="Import a file as a new project"
        onClick={() => picker.current?.click()}
      >
        <Upload size={16} />
      </button>
      <input
        ref={picker}
        type="file"
        hidden
        accept={READABLE.join(",")}
        aria-label="File to import as a new project"
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
    </>
  );
}
