"use client";
import { Toaster } from "sonner";
import { useTheme } from "../person/theme";

/** Short messages, at the bottom, clear of the transport and the bench. */
export function Toasts() {
  const theme = useTheme();
  return (
    <Toaster
      theme={theme === "slate" ? "dark" : "light"}
      position="bottom-left"
      duration={6000}
      toastOptions={{ style: { fontFamily: "var(--font-sans)" } }}
    />
  );
}
