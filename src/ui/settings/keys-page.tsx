"use client";
import { ArrowLeft, Printer } from "lucide-react";
import Link from "next/link";
import { useState } from "react";
import { ACTIONS } from "../actions/registry";
import { scoreOf } from "../controls/find";
import { useMounted } from "../controls/use-mounted";
import { keysOf } from "../person/keys";
import { shownPress } from "../person/presses";
import { HANDS } from "../help/hands";
import { SearchField } from "../controls/search-field";

/** All keys by group, and what hands do on the sheet: to search in, and to print. */
export function KeysPage() {
  const [typed, setTyped] = useState("");
  const mounted = useMounted();
  const shown = ACTIONS.filter(
    (action) => mounted && keysOf(action.id).length > 0 && scoreOf(action, typed) > 0,
  );
  const groups = [...new Set(shown.map(({ group }) => group))];
  const hands = HANDS.filter(
    ({ label, lines }) =>
      scoreOf({ label, group: "sheet pointer", words: lines.flat().join(" ").split(" ") }, typed) >
      0,
  );
  return (
    <div className="min-h-dvh">
      <header className="flex items-center gap-3 border-b border-base-300 bg-base-100 px-8 py-2.5 print:border-0">
        <Link href="/" className="btn btn-ghost btn-sm gap-1 px-2 font-normal print:hidden">
          <ArrowLeft size={15} /> Library
        </Link>
        <h1 className="mr-auto text-[15px] font-semibold">All keys of Hailstep</h1>
        <Link href="/settings" className="link text-[13px] print:hidden">
          Change keys
        </Link>
        <SearchField
          label="Search keys"
          className="w-56 print:hidden"
          value={typed}
          onChange={setTyped}
        />
        <button className="btn btn-sm gap-2 print:hidden" onClick={() => window.print()}>
          <Printer size={14} /> Print
        </button>
      </header>
      <main className="mx-auto max-w-[1200px] columns-1 gap-8 px-8 py-6 text-[12px] sm:columns-2 lg:columns-3 print:columns-3 print:px-0">
        {groups.map((group) => (
          <section key={group} aria-label={group} className="mb-5">
            <h2 className="mb-1 text-[13px] font-semibold break-after-avoid">{group}</h2>
            <dl>
              {shown
                .filter((action) => action.group === group)
                .map(({ id, label }) => (
                  <Line key={id} name={label} does={keysOf(id).map(shownPress).join(" or ")} />
                ))}
            </dl>
          </section>
        ))}
        {hands.map(({ label, lines }) => (
          <section key={label} aria-label={label} className="mb-5 break-inside-avoid">
            <h2 className="mb-1 text-[13px] font-semibold">On the sheet: {label.toLowerCase()}</h2>
            <dl>
              {lines.map(([what, does]) => (
                <Line key={what} name={does} does={what} />
              ))}
            </dl>
          </section>
        ))}
        {mounted && shown.length + hands.length === 0 && <p className="quiet">No matching key</p>}
      </main>
    </div>
  );
}

const Line = ({ name, does }: { name: string; does: string }) => (
  <div className="flex min-h-5 items-baseline gap-3 border-b border-base-300 break-inside-avoid">
    <dt className="flex-1">{name}</dt>
    <dd className="figure quiet shrink-0">{does}</dd>
  </div>
);
