"use client";
import { useRouter } from "next/navigation";
import { Upload } from "lucide-react";
import { useCallback, useEffect, useRef, useState } from "react";
import { READABLE } from "@/core/formats";
import { FileButton } from "../controls/file-button";
import { notImported, readIntake, type Intake } from "../commands/files/importing";
import { Listening, takeWaiting } from "../commands/files/listening";
import { currentMetre } from "../state/current";
import { SAMPLE_TYPES, isSound } from "../commands/files/sample";
import { useRequest } from "../session/requested";
import { useDesk } from "../session/context";
import { IntakeDialog } from "./intake-dialog";
import { RecordingDialog } from "./recording-dialog";

/** Files in: by button, drop and paste. Each is shown first, with what it holds and what will be done. */
export function ImportDialog() {
  const { store } = useDesk();
  const router = useRouter();
  const button = useRef<HTMLButtonElement>(null);
  const [shown, setShown] = useState<{ file: File; read: Intake } | null>(null);
  const [listening, setListening] = useState<Listening | null>(null);
  const [busy, setBusy] = useState(false);
  useRequest("import-file", () => button.current?.click());

  const show = useCallback(
    async (file: File) => {
      setBusy(true);
      try {
        if (isSound(file)) {
          setListening(await Listening.open(file, currentMetre(store.getState())));
          return;
        }
        setShown({ file, read: await readIntake(file) });
      } catch (error) {
        notImported(file.name, error);
      } finally {
        setBusy(false);
      }
    },
    [store],
  );
  // A sound that was given to the library waits for its project to open.
  useEffect(() => {
    const waiting = takeWaiting();
    if (waiting) queueMicrotask(() => void show(waiting));
  }, [show]);
  // What is dropped or pasted anywhere on the project and is taken by nobody else.
  useEffect(() => {
    const of = (transfer: DataTransfer | null) => transfer?.files[0] ?? null;
    const take = (event: Event, file: File | null) => {
      if (!file || event.defaultPrevented) return;
      event.preventDefault();
      void show(file);
    };
    const over = (event: DragEvent) => {
      if (event.dataTransfer?.types.includes("Files")) event.preventDefault();
    };
    const drop = (event: DragEvent) => take(event, of(event.dataTransfer));
    // The clipboard may hold a picture or a page as well: only what could be read is asked about.
    const paste = (event: ClipboardEvent) => {
      const file = of(event.clipboardData);
      const known = READABLE.some((ending) => file?.name.toLowerCase().endsWith(ending));
      if (known || (file && isSound(file))) take(event, file);
    };
    window.addEventListener("dragover", over);
    window.addEventListener("drop", drop);
    window.addEventListener("paste", paste);
    return () => {
      window.removeEventListener("dragover", over);
      window.removeEventListener("drop", drop);
      window.removeEventListener("paste", paste);
    };
  }, [show]);

  return (
    <>
      <FileButton
        ref={button}
        file="File to import"
        className="btn btn-ghost btn-sm px-1.5"
        accept={`${READABLE.join(",")},${SAMPLE_TYPES}`}
        aria-label="Import a file"
        title={`Import a file: ${READABLE.join(", ")}, or a sound to be listened to; or drop or paste one`}
        disabled={busy}
        onFiles={([file]) => void show(file)}
      >
        <Upload size={16} />
      </FileButton>
      {listening && (
        <RecordingDialog
          listening={listening}
          onClose={() => {
            listening.close();
            setListening(null);
          }}
        />
      )}
      {shown && (
        <IntakeDialog
          {...shown}
          store={store}
          onClose={() => setShown(null)}
          onTaken={(id) => {
            setShown(null);
            if (id !== null) router.push(`/p/${id}`);
          }}
        />
      )}
    </>
  );
}
