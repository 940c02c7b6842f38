"use client";
import { compareVersions, setVersionA } from "../commands/transport/compare";
import { useDesk, useSession } from "../session/context";

/** Hears version A against the current one (B) while the loop plays, and sets A. */
export function Versions() {
  const { store } = useDesk();
  const hearingA = useSession((state) => state.hearingA);
  const same = useSession((state) => state.versionA === state.project);
  return (
    <div role="group" aria-label="Versions" className="flex items-center text-[12px]">
      {(["A", "B"] as const).map((version) => {
        const on = hearingA === (version === "A");
        const label = version === "A" ? "Version A" : "Current version, B";
        return (
          <button
            key={version}
            className={`h-[26px] w-[24px] font-semibold first:rounded-l-lg ${on ? "bg-primary/15 text-primary" : "quiet hover:bg-base-200"}`}
            aria-pressed={on}
            aria-label={label}
            title={`Hear and see: ${label} (shift X)`}
            disabled={same && version === "A"}
            onClick={() => compareVersions(store, version === "A")}
          >
            {version}
          </button>
        );
      })}
      <button
        className="h-[26px] rounded-r-lg px-1.5 whitespace-nowrap hover:bg-base-200"
        title="Set version A to what is there now, to compare with later (shift S)"
        onClick={() => setVersionA(store)}
      >
        Set A
      </button>
    </div>
  );
}
