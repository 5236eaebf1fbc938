import { propertyAt, type Value } from '@zippy/core/document';
import { FIELD_KINDS, fieldOf, type FieldSpec } from '../field';
import type { MoveOf, MoveView } from './view';

export const ramp: MoveView<MoveOf<'ramp'>> = {
  family: 'light',
  needs: 'Select a light, finish or part',
  starts: [
    {
      title: 'Fade in',
      does: 'From nothing to what it is now',
      words: 'ramp brighten appear light up animate value',
      drawing: 'M3 13c14 0 12-10 28-10',
    },
    {
      title: 'Fade out',
      does: 'From what it is now to nothing',
      words: 'ramp dim darken go out animate value',
      drawing: 'M3 3c14 0 12 10 28 10',
      numbers: ({ from, to }) => ({ from: to, to: from }),
    },
  ],
  fields: ({ at }, move) => {
    // Its ends are values of the property that it moves.
    const moved = propertyAt(move.target);
    const end = (key: 'from' | 'to', label: string): FieldSpec => {
      const kind = moved && Array.isArray(move[key]) ? FIELD_KINDS[moved.kind] : ('number' as const);
      const shown = { still: true, kind };
      return moved
        ? fieldOf(moved, `${at}/${key}`, label, shown)
        : { path: `${at}/${key}`, label, ...shown, step: 0.1 };
    };
    return [end('from', 'From'), end('to', 'To')];
  },
  says: ({ from, to }) => `${shown(from)} to ${shown(to)}`,
};

function shown(value: Value): string {
  if (typeof value === 'number') return String(Math.round(value * 100) / 100);
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (typeof value === 'string') return value;
  return '…';
}
