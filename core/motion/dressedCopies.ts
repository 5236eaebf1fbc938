import {
  blendFinishes,
  copyOf,
  newId,
  sameFinish,
  subtree,
  type Copies,
  type Finish,
  type ProjectDocument,
  type SceneNode,
} from '../document';
import { copyCount, signedNoise } from '../geometry';
import { separateCopies, type SceneState } from '../scene';
import { dressedBy } from './colourways';

/** What one copy of a part wears. */
export interface Worn {
  id: string | null;
  /** Of one that is in no project: blended of two. */
  blended?: Finish;
}

/** Steps between two finishes: more would be told apart by no eye, and every one is a finish of its own to the tracer. */
const STEPS = 32;
/** Of the numbers that hang on a seed, the one by which a copy is dressed. */
const CHANNEL = 7;

/** Copies that are dressed by a rule, and how many instances of the part lie between two of them. */
interface Rule {
  copies: Copies;
  stride: number;
}

function rulesOf(state: SceneState, node: SceneNode): Rule[] {
  const rules: Rule[] = [];
  let stride = 1;
  for (let at: SceneNode | undefined = node; at; at = at.parent === null ? undefined : state.nodes[at.parent]) {
    if (!at.copies) continue;
    if (at.copies.dressed !== 'same') rules.unshift({ copies: at.copies, stride });
    stride *= copyCount(at.copies);
  }
  return rules;
}

/** Blended finishes, made once. */
const made = new WeakMap<Finish, WeakMap<Finish, Map<number, Finish>>>();

function blended(a: Finish, b: Finish, step: number): Finish {
  const others = made.get(a) ?? new WeakMap<Finish, Map<number, Finish>>();
  made.set(a, others);
  const steps = others.get(b) ?? new Map<number, Finish>();
  others.set(b, steps);
  const known = steps.get(step) ?? { ...blendFinishes(a, b, step / STEPS), id: `${a.id}~${b.id}~${step}` };
  steps.set(step, known);
  return known;
}

/**
 * What each copy of a part wears, by the number of its instance; null where all wear what the part does. Rules of outer copies come first:
 * a row of the product in its colourways, of which each has its own row of feet.
 */
export function dressCopies(
  document: Dressing,
  state: SceneState,
  node: SceneNode,
  worn: string | null,
): ((instance: number) => Worn) | null {
  const rules = rulesOf(state, node);
  if (rules.length === 0) return null;
  const dress = dresser(document, state.finishes);
  return (instance) =>
    rules.reduce<Worn>(
      (wears, { copies, stride }) => dress(node, wears, copies, Math.floor(instance / stride) % copyCount(copies)),
      { id: worn },
    );
}

type Dressing = Pick<ProjectDocument, 'colourways' | 'colourway' | 'finishes'>;

/** Dresses a part of one copy by the rule of the copies. */
function dresser(document: Dressing, finishes: Readonly<Record<string, Finish>>) {
  const colourways = Object.entries(document.colourways).sort(([, a], [, b]) => a.order - b.order);
  const variants = colourways.map(([colourway]) => dressedBy({ ...document, colourway }, null));
  return (node: SceneNode, wears: Worn, copies: Copies, k: number): Worn => {
    if (copies.dressed === 'same') return wears;
    if (copies.dressed === 'colourways') {
      const variant = variants[k % Math.max(1, variants.length)];
      return variant ? { id: variant(node) } : wears;
    }
    const choices = copies.wears.filter((id) => finishes[id]);
    if (choices.length < 2 || wears.blended || wears.id !== choices[0]) return wears;
    return chosen(copies, choices, k, copyCount(copies), finishes);
  };
}

/** Makes nodes of their own of a node's copies, each dressed as it was. @returns their ids, the node's own first */
export function separateDressedCopies(draft: ProjectDocument, id: string): string[] {
  const before = copyOf(draft);
  const copies = before.nodes[id]?.copies;
  const made = separateCopies(draft, id);
  if (!copies || copies.dressed === 'same') return made;
  const [dress, worn] = [dresser(before, before.finishes), dressedBy(before, null)];
  const parts = subtree(before, id).map((each) => before.nodes[each]!);
  made.forEach((copy, k) =>
    subtree(draft, copy).forEach((each, at) => {
      const part = parts[at]!;
      if (!part.mesh) return;
      const own = { id: worn(part) };
      const wears = dress(part, own, copies, k);
      if (wears !== own) draft.nodes[each]!.finish = wears.blended ? finishLike(draft, wears.blended) : wears.id;
    }),
  );
  return made;
}

/** A finish of the project that is just like one between two. */
function finishLike(draft: ProjectDocument, blended: Finish): string {
  const known = Object.values(draft.finishes).find((each) => each.name === blended.name && sameFinish(each, blended));
  if (known) return known.id;
  const id = newId();
  draft.finishes[id] = { ...copyOf(blended), id };
  return id;
}

function chosen(
  { dressed, seed }: Copies,
  choices: readonly string[],
  k: number,
  count: number,
  finishes: Readonly<Record<string, Finish>>,
): Worn {
  if (dressed === 'alternate') return { id: choices[k % choices.length]! };
  if (dressed === 'random') {
    const share = (signedNoise(seed, k, CHANNEL) + 1) / 2;
    return { id: choices[Math.min(choices.length - 1, Math.floor(share * choices.length))]! };
  }
  const along = count > 1 ? (k / (count - 1)) * (choices.length - 1) : 0;
  const from = Math.min(choices.length - 2, Math.floor(along));
  const step = Math.round((along - from) * STEPS);
  if (step === 0) return { id: choices[from]! };
  if (step === STEPS) return { id: choices[from + 1]! };
  const finish = blended(finishes[choices[from]!]!, finishes[choices[from + 1]!]!, step);
  return { id: finish.id, blended: finish };
}
