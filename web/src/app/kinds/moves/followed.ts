import { inOrder, type ProjectDocument } from '@zippy/core/document';
import type { FieldSpec } from '../field';
import type { MoveFields } from './view';

/**
 * Fields of the two things that a pull goes between; the card's buttons take another point of each than its turning point.
 * @param own what none of them stands for
 */
export function followedFields({ document, at, write }: MoveFields, own: string): FieldSpec[] {
  return (['from', 'to'] as const).map((key) => ({
    path: `${at}/${key}/node`,
    label: key === 'from' ? 'From' : 'To',
    kind: 'choice',
    still: true,
    options: [
      { value: '', label: own },
      ...inOrder(document.nodes).map(({ id, name }) => ({ value: id, label: name })),
    ],
    write: write((move, value, draft: ProjectDocument) => {
      const node = draft.nodes[String(value)];
      if (move.kind === 'focusPull' || move.kind === 'aimPull')
        move[key] = node ? { node: node.id, point: [...node.pivot] } : null;
    }),
  }));
}
