import type { Metadata } from "next";
import { headers } from "next/headers";
import type { ReactNode } from "react";
import "@fontsource-variable/instrument-sans";
import "@fontsource-variable/spline-sans-mono";
import "./globals.css";
import { Toasts } from "@/ui/controls/toasts";
import { THEME_SCRIPT } from "@/ui/person/theme-script";

export const metadata: Metadata = {
  title: { default: "Hailstep", template: "%s · Hailstep" },
  description: "Program drum and melodic patterns on a step grid, generate notes, transform them.",
};

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get("x-nonce") ?? undefined;
  return (
    <html lang="en" data-theme="overcast" suppressHydrationWarning>
      <head>
        <script
          nonce={nonce}
          suppressHydrationWarning
          dangerouslySetInnerHTML={{ __html: THEME_SCRIPT }}
        />
      </head>
      <body>
        {children}
        <Toasts />
      </body>
    </html>
  );
}
