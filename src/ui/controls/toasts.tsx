"use client";
import { Toaster } from "sonner";
import { useSetting } from "../person/settings";
import { useTheme } from "../person/theme";

/** Short messages, where a person wants them. */
export function Toasts() {
  const theme = useTheme();
  const place = useSetting("messages");
  return (
    <Toaster
      theme={theme === "slate" ? "dark" : "light"}
      position={place}
      duration={6000}
      toastOptions={{ style: { fontFamily: "var(--font-sans)" } }}
    />
  );
}
