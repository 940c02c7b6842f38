"use client";
import type { SchemaDescription } from "yup";
import { type ParamMeta, type ParamValue, type Params, isShown } from "@/core/params";
import { ParamField } from "./param-field";

interface Props<Name extends string> {
  /** Which fields, in their order. */
  names: readonly Name[];
  /** What their schema says of each. */
  about: Readonly<Record<Name, SchemaDescription>>;
  /** Values by name; there may be others among them, which conditions ask. */
  values: object;
  reset: object;
  /** How much place there is: beside the sheet, or in a dialog. */
  place?: "panel" | "dialog";
  onChange(name: Name, value: ParamValue): void;
}

/** Several fields of one schema, as far as they have a meaning next to the values of the others. */
export function ParamFields<Name extends string>({
  names,
  about,
  values,
  reset,
  place = "panel",
  onChange,
}: Props<Name>) {
  const [now, usual] = [values as Params, reset as Params];
  return names
    .filter((name) => isShown((about[name].meta ?? {}) as ParamMeta, now))
    .map((name) => (
      <ParamField
        key={name}
        place={place}
        name={name}
        about={about[name]}
        value={now[name] ?? ""}
        reset={usual[name] ?? now[name] ?? ""}
        onChange={(value) => onChange(name, value)}
      />
    ));
}
