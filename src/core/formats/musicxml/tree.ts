import { SaxesParser } from "saxes";
import { FormatError } from "../container/bytes";
import { lastOf } from "../../base";

/** An element of an XML document. */
export interface Element {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: Element[];
  text: string;
}

/** More is read of no document. */
const MAX = { elements: 3_000_000, depth: 64, text: 100_000 };

/**
 * An XML document as its elements. Throws a `FormatError` that says where, for what is not well-formed, for entities
 * of its own (which could be anything, and of any length), and for more elements or deeper ones than any score has.
 */
export function parseXml(text: string): Element {
  const parser = new SaxesParser({ position: true });
  const root: Element = { name: "", attributes: {}, children: [], text: "" };
  const open: Element[] = [root];
  let count = 0;
  const wrong = (what: string): never => {
    throw new FormatError(`Line ${parser.line}: ${what}`);
  };
  parser.on("error", (error) => {
    throw new FormatError(`Not valid XML: ${error.message}`);
  });
  parser.on("doctype", (doctype) => {
    if (doctype.includes("[") || /<!ENTITY/i.test(doctype))
      wrong("the document has entities or declarations of its own, which are not read");
  });
  parser.on("opentag", ({ name, attributes }) => {
    if (++count > MAX.elements) wrong(`more than ${MAX.elements.toLocaleString("en-GB")} elements`);
    if (open.length > MAX.depth) wrong(`elements are nested deeper than ${MAX.depth}`);
    const element: Element = {
      name,
      attributes: attributes as Record<string, string>,
      children: [],
      text: "",
    };
    lastOf(open).children.push(element);
    open.push(element);
  });
  parser.on("closetag", () => void open.pop());
  parser.on("text", (part) => {
    const element = lastOf(open);
    if (element.text.length < MAX.text) element.text += part;
  });
  parser.write(text).close();
  const [document] = root.children;
  return document ?? wrong("the document holds nothing");
}

/** The first child of a name. */
export const child = (element: Element | undefined, name: string): Element | undefined =>
  element?.children.find((one) => one.name === name);

export const childrenOf = (element: Element | undefined, name: string): Element[] =>
  element?.children.filter((one) => one.name === name) ?? [];

/** Text of the first child of a name, trimmed; empty where there is none. */
export const textOf = (element: Element | undefined, name: string): string =>
  child(element, name)?.text.trim() ?? "";

/** Number in the first child of a name; null where there is none, or it is no number. */
export function numberOf(element: Element | undefined, name: string): number | null {
  const text = textOf(element, name);
  const value = Number(text);
  return text === "" || !Number.isFinite(value) ? null : value;
}
