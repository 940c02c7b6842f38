"use client";
import { useRouter } from "next/navigation";
import { useRef, useState, type ComponentProps } from "react";
import { READABLE } from "@/core/formats";
import { notImported, readIntake, type Intake } from "./commands/files/importing";
import { leaveWaiting } from "./commands/files/listening";
import { SAMPLE_TYPES, isSound, soundTitle } from "./commands/files/sample";
import { IntakeDialog } from "./files/intake-dialog";
import { Library } from "./library/library";
import { api } from "./saving/api";

/** The library, and what is given to it: each file is shown before it becomes a project. */
export function Home({ first }: Pick<ComponentProps<typeof Library>, "first">) {
  const router = useRouter();
  const [shown, setShown] = useState<{ file: File; read: Intake } | null>(null);
  /** Goes on to the next file of several. */
  const next = useRef<() => void>(() => undefined);

  const ask = async (file: File) => {
    try {
      if (isSound(file)) {
        const { id } = await api.create({ name: soundTitle(file.name) });
        leaveWaiting(file);
        router.push(`/p/${id}`);
        return;
      }
      const read = await readIntake(file);
      await new Promise<void>((resolve) => {
        next.current = resolve;
        setShown({ file, read });
      });
    } catch (error) {
      notImported(file.name, error);
    }
  };
  const done = () => {
    setShown(null);
    next.current();
  };
  return (
    <>
      <Library
        first={first}
        accept={`${READABLE.join(",")},${SAMPLE_TYPES}`}
        onFiles={async (files) => {
          for (const file of files) await ask(file);
        }}
      />
      {shown && (
        <IntakeDialog key={shown.file.name} {...shown} store={null} onClose={done} onTaken={done} />
      )}
    </>
  );
}
