/** Text as XML holds it; characters that XML 1.0 does not allow are left out. */
export const escaped = (text: string): string =>
  text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, "")
    .replace(/[&<>"]/g, (c) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[c]!);

type Attributes = Readonly<Record<string, string | number | undefined>>;

const written = (attributes: Attributes) =>
  Object.entries(attributes)
    .filter(([, value]) => value !== undefined)
    .map(([name, value]) => ` ${name}="${escaped(String(value))}"`)
    .join("");

/** An element with text, or with others in it, as XML. */
export function element(
  name: string,
  content: string | number | readonly string[] = [],
  attributes: Attributes = {},
): string {
  const inside = Array.isArray(content) ? content.join("") : escaped(String(content));
  const head = `${name}${written(attributes)}`;
  return inside === "" ? `<${head}/>` : `<${head}>${inside}</${name}>`;
}
