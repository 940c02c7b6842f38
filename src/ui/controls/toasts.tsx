"use client";
import { Toaster } from "sonner";
import { useEffect } from "react";
import { useSetting, watchSettings } from "../person/settings";
import { applyLook, useTheme } from "../person/theme";

/** Short messages, where a person wants them. */
export function Toasts() {
  const theme = useTheme();
  const place = useSetting("messages");
  // Of whichever tab it was changed in.
  useEffect(() => watchSettings(applyLook), []);
  return (
    <Toaster
      theme={theme === "slate" ? "dark" : "light"}
      position={place}
      duration={6000}
      toastOptions={{ style: { fontFamily: "var(--font-sans)" } }}
    />
  );
}
