"use client";
import { useRef, type ComponentProps } from "react";

interface FileButtonProps extends Omit<ComponentProps<"button">, "onClick"> {
  /** What the file is for: the name of the field behind the button. */
  file: string;
  accept: string;
  multiple?: boolean;
  /** At least one file. */
  onFiles(files: [File, ...File[]]): void;
}

/** A button that asks for a file. The same file may be chosen twice in a row. */
export function FileButton({ file, accept, multiple, onFiles, ...button }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button {...button} onClick={() => input.current?.click()} />
      <input
        ref={input}
        type="file"
        hidden
        multiple={multiple}
        accept={accept}
        aria-label={file}
        onChange={(event) => {
          const [first, ...others] = event.target.files ?? [];
          event.target.value = "";
          if (first) onFiles([first, ...others]);
        }}
      />
    </>
  );
}
