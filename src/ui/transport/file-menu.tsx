"use client";
import { useRouter } from "next/navigation";
import { Download } from "lucide-react";
import { useRef, useState } from "react";
import { READABLE } from "@/core";
import { EXPORTS, exportAs } from "../commands/export";
import { importFile } from "../saving/import";
import { Menu } from "../controls/menu";
import { useCalled } from "../session/called";
import { useDesk } from "../session/context";

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Exports of the project, as the formats offer them, and importing a file as another project. */
export function FileMenu() {
  const { store } = useDesk();
  const router = useRouter();
  const picker = useRef<HTMLInputElement>(null);
  const [open, setOpen] = useState(false);
  useCalled("export-menu", () => setOpen(true));
  useCalled("import-file", () => picker.current?.click());
  const take = async (file: File | undefined) => {
    const id = file && (await importFile(file));
    if (id) router.push(`/p/${id}`);
  };
  return (
    <>
      <Menu
        label="Export"
        open={open}
        onOpenChange={setOpen}
        trigger={
          <button
            className="btn btn-ghost btn-sm px-1.5"
            aria-label="Export"
            title="Export as a file, or import one"
          >
            <Download size={16} />
          </button>
        }
        items={[
          ...EXPORTS.map((choice) => ({
            label: capital(choice.label),
            run: () => void exportAs(store, choice),
          })),
          { label: "Import a file…", run: () => picker.current?.click() },
        ]}
      />
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
