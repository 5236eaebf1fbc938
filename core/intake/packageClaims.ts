import { unzipSync } from 'fflate';
import { LIMITS, UserProblem } from '../document';

/** What a 3MF package may unfold to, and how deeply its objects may hold each other. */
const PACKAGE_LIMITS = { modelBytes: 500_000_000, bytes: 2_000_000_000, depth: 32 } as const;

const sizeProblem = (name: string) =>
  new UserProblem(
    'file-too-large',
    `"${name}" would unfold to more than ${PACKAGE_LIMITS.modelBytes / 1e6} MB of triangles, or 2 GB in all. Export it with fewer triangles, or in pieces.`,
    413,
  );
const partsProblem = (name: string) =>
  new UserProblem(
    'too-many-parts',
    `"${name}" places more than ${LIMITS.parts.toLocaleString('en')} objects in each other, or nests them more than ${PACKAGE_LIMITS.depth} deep. Export it with its objects joined.`,
    422,
  );

/**
 * Looks at a 3MF package before it is converted: sizes as its directory states them, and how many objects its components place in the
 * end, which a few lines can make millions of (3MF core specification, sections 4.1 and 4.2).
 * @returns the words of its first model; empty where there is none, or the archive is damaged, which the conversion tells
 * @throws UserProblem `file-too-large` or `too-many-parts`
 */
export function checkPackage(bytes: Uint8Array, name: string): string {
  const total = { all: 0, models: 0 };
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter({ name: path, originalSize }) {
        const model = /\.model$/i.test(path);
        total.all += originalSize;
        if (model) total.models += originalSize;
        if (total.all > PACKAGE_LIMITS.bytes || total.models > PACKAGE_LIMITS.modelBytes) throw sizeProblem(name);
        return model;
      },
    });
  } catch (error) {
    if (error instanceof UserProblem) throw error;
    return '';
  }
  const models = Object.values(files).map((model) => new TextDecoder('latin1').decode(model));
  const placed = placedObjects(models);
  if (placed > LIMITS.parts) throw partsProblem(name);
  return models[0] ?? '';
}

const ID = /\bid\s*=\s*["'](\d+)["']/;
const OBJECT_ID = /\bobjectid\s*=\s*["'](\d+)["']/;

/** How many objects are placed in the end by the models of a package; endless where they hold each other. */
function placedObjects(models: readonly string[]): number {
  // An object is told by its number alone: what two models use it for counts as one object that holds both.
  const held = new Map<string, string[]>();
  const items: string[] = [];
  for (const model of models) {
    let open: string[] = [];
    for (const [, tag, attributes] of model.matchAll(/<(?:\w+:)?(object|component|item)\b([^>]*)/g)) {
      if (tag === 'object') {
        open = [];
        const own = ID.exec(attributes!)?.[1] ?? '';
        const known = held.get(own);
        if (known) open = known;
        else held.set(own, open);
      } else (tag === 'component' ? open : items).push(OBJECT_ID.exec(attributes!)?.[1] ?? '');
    }
  }
  const counts = new Map<string, number>();
  const count = (object: string, depth: number): number => {
    if (depth > PACKAGE_LIMITS.depth) return Infinity;
    const known = counts.get(object);
    if (known !== undefined) return known;
    let sum = 1;
    for (const each of held.get(object) ?? []) {
      sum += count(each, depth + 1);
      if (sum > LIMITS.parts) break;
    }
    counts.set(object, sum);
    return sum;
  };
  return items.reduce((sum, object) => sum + count(object, 0), 0);
}
