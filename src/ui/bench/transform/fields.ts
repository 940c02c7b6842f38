import type { SchemaDescription } from "yup";
import { type Params, type ParamMeta, isShown } from "@/core/params";
import { transformOf } from "@/core/transforms";

/**
 * The parameters of a transform that have a meaning next to the others' values, with what their schema says; what is
 * asked of bends only where there is one.
 */
export function shownFields(
  transform: string,
  params: Params,
  bent: boolean,
): readonly [name: string, about: SchemaDescription][] {
  const { fields } = transformOf(transform).schema.describe() as {
    fields: Record<string, SchemaDescription>;
  };
  return Object.entries(fields).filter(([, about]) => {
    const meta = (about.meta ?? {}) as ParamMeta;
    return isShown(meta, params) && (bent || meta.role !== "bends");
  });
}
