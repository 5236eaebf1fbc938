import { inOrder, type ProjectDocument } from '@zippy/core/document';
import type { FieldSpec } from '../field';
import type { MoveFields, MoveOf, MoveView } from './view';

export const focusPull: MoveView<MoveOf<'focusPull'>> = {
  family: 'camera',
  needs: 'Select a camera',
  starts: [
    {
      title: 'Focus pull',
      does: 'What is sharp goes from one thing to another, wherever they are',
      words: 'rack focus sharp depth of field',
      drawing: 'M5 8a3 3 0 1 0 0-.100M23 8a4 4 0 1 0 0-.100M12 8h7m-3-3 3 3-3 3',
    },
  ],
  fields: (make) => [end(make, 'from', 'From'), end(make, 'to', 'To')],
  says: ({ to }) => (to ? 'to what it follows' : 'nothing picked yet'),
};

/** What is sharp at one end; the card's buttons take another point of it than its turning point. */
function end({ document, at, write }: MoveFields, key: 'from' | 'to', label: string): FieldSpec {
  return {
    path: `${at}/${key}/node`,
    label,
    kind: 'choice',
    still: true,
    options: [
      { value: '', label: 'What it is sharp at itself' },
      ...inOrder(document.nodes).map(({ id, name }) => ({ value: id, label: name })),
    ],
    write: write((move, value, draft: ProjectDocument) => {
      const node = draft.nodes[String(value)];
      if (move.kind === 'focusPull') move[key] = node ? { node: node.id, point: [...node.pivot] } : null;
    }),
  };
}
