"use client";
import type { ApexOptions } from "apexcharts";
import ReactApexChart from "react-apexcharts";
import type { Timing } from "@/core/analysis";
import { readColours } from "../../controls/colours";
import { nth } from "@/core/base";
import { useTheme } from "../../person/theme";

/** Drift of each hit in ms over its place in the part, in quarter notes. Late is up. */
export default function TimingChart({ timing, ink }: { timing: Timing; ink: number }) {
  const theme = useTheme();
  const colours = readColours();
  const last = Math.max(0, ...timing.drifts.map((drift) => drift.start / 960));
  const quarters = Math.max(4, Math.ceil((last + 0.01) / 4) * 4);
  const most = Math.max(5, ...timing.drifts.map((drift) => Math.abs(drift.ms)));
  const options: ApexOptions = {
    chart: {
      type: "scatter",
      animations: { enabled: false },
      toolbar: { show: false },
      zoom: { enabled: false },
      background: "transparent",
      fontFamily: colours.mono,
    },
    theme: { mode: theme === "slate" ? "dark" : "light" },
    colors: [nth(colours.tracks, ink % colours.tracks.length)],
    markers: { size: 3, strokeWidth: 0 },
    legend: { show: false },
    grid: { borderColor: colours.line, padding: { left: 4, right: 4 } },
    xaxis: {
      type: "numeric",
      min: 0,
      max: quarters,
      tickAmount: 4,
      labels: { formatter: (v) => String(Math.round(Number(v))), style: { colors: colours.quiet } },
      tooltip: { enabled: false },
    },
    yaxis: {
      min: -Math.ceil(most),
      max: Math.ceil(most),
      tickAmount: 2,
      labels: { formatter: (value) => `${Math.round(value)} ms`, style: { colors: colours.quiet } },
    },
    tooltip: {
      x: { formatter: (value) => `quarter ${(Number(value) + 1).toFixed(2)}` },
      y: { formatter: (value) => `${value.toFixed(1)} ms`, title: { formatter: () => "" } },
    },
  };
  const data = timing.drifts.map((drift) => ({
    x: drift.start / 960,
    y: Number(drift.ms.toFixed(2)),
  }));
  return (
    <ReactApexChart
      key={theme}
      type="scatter"
      height={150}
      options={options}
      series={[{ name: "timing offset", data }]}
    />
  );
}
