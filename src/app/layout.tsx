import type { Metadata } from "next";
import type { ReactNode } from "react";
import "@fontsource-variable/instrument-sans";
import "@fontsource-variable/spline-sans-mono";
import "./globals.css";
import { Toasts } from "@/ui/controls/toasts";
import { THEME_SCRIPT } from "@/ui/controls/theme-script";

export const metadata: Metadata = {
  title: { default: "Hailstep", template: "%s · Hailstep" },
  description: "Program drum and melodic patterns on a step grid, generate notes, transform them.",
};

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" data-theme="overcast" suppressHydrationWarning>
      <head>
        <script dangerouslySetInnerHTML={{ __html: THEME_SCRIPT }} />
      </head>
      <body>
        {children}
        <Toasts />
      </body>
    </html>
  );
}
