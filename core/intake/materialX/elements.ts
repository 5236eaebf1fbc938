import { XMLParser } from 'fast-xml-parser';
import { UserProblem } from '../../document';

/** An element of a MaterialX file: a node, one of its inputs, or a graph that holds nodes. */
export interface Element {
  /** Its tag: a node's category, or `input`, `output`, `nodegraph`. */
  category: string;
  attributes: Readonly<Record<string, string>>;
  children: readonly Element[];
}

/** Longest text that is read, in bytes; a finish takes a few thousand. */
const MOST_TEXT = 20_000_000;
const MOST_ELEMENTS = 200_000;

export const brokenMaterialX = (name: string, why: string): UserProblem =>
  new UserProblem(
    'file-broken',
    `"${name}" cannot be read as MaterialX: ${why}. Save it again from the program it came from.`,
    422,
  );

type Raw = Record<string, unknown> & { ':@'?: Record<string, string> };

/**
 * The tree of a MaterialX file. Entities are not resolved, and no other file is opened.
 * @throws UserProblem `file-broken`, `file-too-large`
 */
export function readElements(bytes: Uint8Array, name: string): Element {
  if (bytes.length > MOST_TEXT)
    throw new UserProblem(
      'file-too-large',
      `"${name}" is larger than the 20 MB that a MaterialX file may have. Save fewer finishes in it.`,
      413,
    );
  const parser = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    parseAttributeValue: false,
    processEntities: false,
  });
  let raw: Raw[];
  try {
    raw = parser.parse(new TextDecoder().decode(bytes), true) as Raw[];
  } catch {
    throw brokenMaterialX(name, 'its text is cut off or damaged');
  }
  let count = 0;
  const elementOf = (each: Raw): Element[] => {
    const category = Object.keys(each).find((key) => key !== ':@');
    if (category === undefined || category === '#text' || category.startsWith('?')) return [];
    if (++count > MOST_ELEMENTS) throw brokenMaterialX(name, `it holds more than ${MOST_ELEMENTS} elements`);
    const inside = each[category];
    return [
      {
        category,
        attributes: each[':@'] ?? {},
        children: Array.isArray(inside) ? (inside as Raw[]).flatMap(elementOf) : [],
      },
    ];
  };
  const root = raw.flatMap(elementOf).find(({ category }) => category === 'materialx');
  if (!root) throw brokenMaterialX(name, 'it does not begin like one');
  return root;
}
