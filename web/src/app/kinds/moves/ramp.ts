import { propertyAt, type Value } from '@zippy/core/document';
import { FIELD_KINDS, fieldOf, type FieldSpec } from '../field';
import type { MoveOf, MoveView } from './view';

export const ramp: MoveView<MoveOf<'ramp'>> = {
  does: 'Power or glow from one value to another',
  needs: 'Select a light, finish or part',
  words: 'fade dim brighten animate value',
  drawing: 'M3 13c14 0 12-10 28-10',
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
