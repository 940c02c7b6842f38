import * as yup from "yup";

/** One thing wrong with unknown input: where it is and why it is refused. */
export interface Problem {
  path: string;
  reason: string;
}

/** So many problems are told one by one; of the others, how many there are. */
export const TOLD = 20;
/** Where there are more than this, counting ends. */
const COUNTED = 1000;
/** A reason is cut after so many characters: it may quote what was sent. */
const LONGEST = 300;
/** So many unknown fields are named; more are not looked at. */
const STRANGE = 20;
/** What an object without named fields (values of a transform, settings) may hold, itself included. */
const LOOSE = { values: 20_000, depth: 12 } as const;

/** Problems found so far: the first ones in words, the others counted. */
export class Problems {
  readonly listed: Problem[] = [];
  count = 0;

  add(path: string, reason: string): void {
    this.count++;
    if (this.listed.length < TOLD) {
      this.listed.push({ path: shortened(path) || "(whole)", reason: shortened(reason) });
    }
  }

  get enough(): boolean {
    return this.count >= COUNTED;
  }

  /** The first ones, and one that says how many more there are. */
  list(): Problem[] {
    const more = this.count - this.listed.length;
    if (more === 0) return this.listed;
    const many = this.enough ? `more than ${COUNTED - TOLD - 1}` : String(more);
    return [...this.listed, { path: "(whole)", reason: `has ${many} further problems` }];
  }
}

const shortened = (text: string) => (text.length > LONGEST ? `${text.slice(0, LONGEST)}…` : text);

/** The first of several lists of problems, and how many more there are. */
export function firstProblems(found: readonly Problem[]): Problem[] {
  const problems = new Problems();
  for (const { path, reason } of found) problems.add(path, reason);
  return problems.list();
}

/**
 * Runs a schema without any conversion and returns what is wrong: the first problems in words, then how
 * many more. Counts and unknown fields are looked at before what they hold, so that checking costs no
 * more than the model allows, however much was sent.
 */
export function problemsOf(schema: yup.Schema, value: unknown): Problem[] {
  const problems = new Problems();
  check(schema, value, "", problems);
  return problems.list();
}

function check(schema: yup.Schema, value: unknown, path: string, problems: Problems): void {
  if (problems.enough) return;
  if (schema.type === "array" && Array.isArray(value)) checkList(schema, value, path, problems);
  else if (schema.type === "object" && isPlain(value)) checkObject(schema, value, path, problems);
  else checkLeaf(schema, value, path, problems);
}

function checkList(schema: yup.Schema, list: unknown[], path: string, problems: Problems): void {
  if (!own(schema, list, path, problems)) return;
  const { innerType } = schema as unknown as { innerType?: yup.Schema };
  if (!innerType) return;
  for (let i = 0; i < list.length && !problems.enough; i++) {
    check(innerType, list[i], `${path}[${i}]`, problems);
  }
}

function checkObject(schema: yup.Schema, value: object, path: string, problems: Problems): void {
  const { fields } = schema as unknown as { fields: Record<string, yup.Schema> };
  const known = fieldsOf(schema, fields);
  if (known.length === 0) {
    if (!isSmall(value)) problems.add(path, "holds too much, or too deep");
    else own(schema, value, path, problems);
    return;
  }
  if (!fewStrange(value, fields)) {
    problems.add(path, `has more than ${STRANGE} unknown fields`);
    return;
  }
  own(schema, value, path, problems);
  const held = value as Record<string, unknown>;
  for (const [name, field] of known) {
    const inside = Object.hasOwn(held, name) ? held[name] : undefined;
    check(field, inside, path ? `${path}.${name}` : name, problems);
  }
}

const fieldLists = new WeakMap<yup.Schema, [string, yup.Schema][]>();

function fieldsOf(schema: yup.Schema, fields: Record<string, yup.Schema>): [string, yup.Schema][] {
  let list = fieldLists.get(schema);
  if (!list) fieldLists.set(schema, (list = Object.entries(fields)));
  return list;
}

/** Without listing all keys first, of which there may be millions. */
function fewStrange(value: object, fields: object): boolean {
  let strange = 0;
  for (const key in value) {
    if (!Object.hasOwn(fields, key) && ++strange > STRANGE) return false;
  }
  return true;
}

function isSmall(value: object): boolean {
  let left = LOOSE.values;
  const fits = (inside: unknown, depth: number): boolean => {
    if (--left < 0 || depth > LOOSE.depth) return false;
    if (typeof inside !== "object" || inside === null) return true;
    for (const key in inside) {
      if (!fits((inside as Record<string, unknown>)[key], depth + 1)) return false;
    }
    return true;
  };
  return fits(value, 0);
}

/** What passed once passes again: most values of a project are few, over and over. */
const passed = new WeakMap<yup.Schema, Set<unknown>>();
const REMEMBERED = 2000;

function checkLeaf(schema: yup.Schema, value: unknown, path: string, problems: Problems): void {
  const plain = typeof value !== "object" && (typeof value !== "string" || value.length <= 64);
  const seen = passed.get(schema);
  if (plain && seen?.has(value)) return;
  if (!own(schema, value, path, problems) || !plain) return;
  if (!seen) passed.set(schema, new Set([value]));
  else if (seen.size < REMEMBERED) seen.add(value);
}

/** Runs the tests of a schema itself, without those of what the value holds. */
function own(schema: yup.Schema, value: unknown, path: string, problems: Problems): boolean {
  try {
    // A path is no option that is meant for the outside, but messages and own tests name it.
    const options: yup.ValidateOptions & { path?: string } = {
      strict: true,
      abortEarly: false,
      recursive: false,
      disableStackTrace: true,
    };
    if (path) options.path = path;
    schema.validateSync(value, options);
    return true;
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    tell(error, problems);
    return false;
  }
}

function tell(error: yup.ValidationError, problems: Problems): void {
  if (error.inner.length > 0) {
    for (const inner of error.inner) tell(inner, problems);
    return;
  }
  const path = error.path ?? "";
  const message = error.message || "is not valid";
  problems.add(
    path,
    path && message.startsWith(path) ? message.slice(path.length).trim() : message,
  );
}

const isPlain = (value: unknown): value is object =>
  typeof value === "object" && value !== null && !Array.isArray(value);
