"use client";
import type { ApexOptions } from "apexcharts";
import ReactApexChart from "react-apexcharts";
import type { Timing } from "@/core/analysis";
import { type Metre, barTicks, formatPosition } from "@/core/time";
import { readColours } from "../../controls/colours";
import { nth } from "@/core/base";
import { useTheme } from "../../person/theme";

interface Props {
  timing: Timing;
  /** As it was without the chain; null where there is none. */
  before: Timing | null;
  metre: Metre;
  /** Number of the track’s colour. */
  ink: number;
}

const points = ({ drifts }: Timing, bar: number) =>
  drifts.map((drift) => ({ x: drift.start / bar, y: Number(drift.ms.toFixed(2)) }));

/** Timing offset of each hit in ms over its bar, and pale how it was without the chain. Late is up. */
export default function TimingChart({ timing, before, metre, ink }: Props) {
  const theme = useTheme();
  const colours = readColours();
  const bar = barTicks(metre);
  const all = [...timing.drifts, ...(before?.drifts ?? [])];
  const bars = Math.max(1, Math.ceil(Math.max(0, ...all.map(({ start }) => start + 1)) / bar));
  const most = Math.max(5, ...all.map((drift) => Math.abs(drift.ms)));
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
    colors: [...(before ? [colours.dimple] : []), nth(colours.tracks, ink % colours.tracks.length)],
    markers: { size: 3, strokeWidth: 0 },
    legend: { show: false },
    grid: { borderColor: colours.line, padding: { left: 4, right: 4 } },
    xaxis: {
      type: "numeric",
      min: 0,
      max: bars,
      tickAmount: Math.min(bars, 8),
      labels: {
        // Each line begins a bar; the last one is the end.
        formatter: (v) => (Number(v) < bars ? `bar ${Math.floor(Number(v)) + 1}` : ""),
        style: { colors: colours.quiet },
      },
      tooltip: { enabled: false },
    },
    yaxis: {
      min: -Math.ceil(most),
      max: Math.ceil(most),
      tickAmount: 2,
      labels: { formatter: (value) => `${Math.round(value)} ms`, style: { colors: colours.quiet } },
    },
    tooltip: {
      x: { formatter: (value) => formatPosition(Math.round(Number(value) * bar), metre) },
      y: { formatter: (value) => `${value.toFixed(1)} ms`, title: { formatter: () => "" } },
    },
  };
  return (
    <ReactApexChart
      key={theme}
      type="scatter"
      height={150}
      options={options}
      series={[
        ...(before ? [{ name: "without the chain", data: points(before, bar) }] : []),
        { name: "timing offset", data: points(timing, bar) },
      ]}
    />
  );
}
