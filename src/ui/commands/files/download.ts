/** Hands a file to the browser's downloads. */
export function download(body: Blob, name: string): void {
  const url = URL.createObjectURL(body);
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** A name that every file system takes. */
export const fileName = (name: string) =>
  name.replace(/[\\/:*?"<>|\p{Cc}]+/gu, "_").trim() || "Untitled";
