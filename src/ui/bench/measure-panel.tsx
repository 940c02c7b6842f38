"use client";
import { toast } from "sonner";
import { GRID_VALUES, tempoTable, type TempoRow } from "@/core";
import { useSession } from "../session/context";

const KINDS = ["straight", "triplet", "dotted"] as const;

/** Note values in ms and Hz at this tempo, to copy into delays, reverbs and decays. */
export function MeasurePanel() {
  const tempo = useSession((s) => s.project.tempo);
  const rows = tempoTable(tempo);
  const copy = async (row: TempoRow) => {
    try {
      await navigator.clipboard.writeText(row.ms.toFixed(3));
      toast.success(`Copied ${row.name} = ${row.ms.toFixed(3)} ms`);
    } catch {
      toast.error("The browser did not let the clipboard be written");
    }
  };
  return (
    <div className="overflow-y-auto p-3.5 text-[12px]">
      <p className="quiet mb-2">
        Note values at <b className="figure text-base-content">{tempo}</b> BPM, in ms over Hz. Click
        one to copy its ms.
      </p>
      <table className="w-full border-collapse">
        <thead>
          <tr className="quiet text-left">
            <th className="py-1 font-normal">Value</th>
            {KINDS.map((kind) => (
              <th key={kind} className="py-1 text-right font-normal">
                {kind}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {GRID_VALUES.map((value) => (
            <tr key={value} className="border-t border-base-300">
              <th className="figure text-left font-medium">1/{value}</th>
              {KINDS.map((kind) => {
                const row = rows.find((r) => r.value === value && r.kind === kind)!;
                return (
                  <td key={kind} className="text-right">
                    <button
                      className="figure rounded px-1 py-0.5 leading-tight hover:bg-base-200"
                      aria-label={`Copy ${row.name}: ${row.ms.toFixed(3)} ms`}
                      onClick={() => void copy(row)}
                    >
                      {row.ms.toFixed(row.ms < 1000 ? 1 : 0)}
                      <span className="quiet block text-[10px]">
                        {row.hz.toFixed(row.hz < 10 ? 2 : 1)}
                      </span>
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
