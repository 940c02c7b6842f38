import type { SchemaDescription } from "yup";
import { type Params, type ParamMeta, isShown } from "@/core/params";
import { transformOf } from "@/core/transforms";

/** The parameters of a transform that have a meaning next to the others' values, with what their schema says. */
export function shownFields(
  transform: string,
  params: Params,
): readonly [name: string, about: SchemaDescription][] {
  const { fields } = transformOf(transform).schema.describe() as {
    fields: Record<string, SchemaDescription>;
  };
  return Object.entries(fields).filter(([, about]) =>
    isShown((about.meta ?? {}) as ParamMeta, params),
  );
}
