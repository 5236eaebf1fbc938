import { propertyAt, type Value } from '@zippy/core/document';
import { FIELD_KINDS, fieldOf, type FieldSpec } from '../field';
import type { MoveOf, MoveView } from './view';

export const stops: MoveView<MoveOf<'stops'>> = {
  family: 'light',
  needs: 'Select a light or finish',
  starts: [
    {
      title: 'Colours',
      does: 'Through a row of colours, or of any values',
      words: 'color cycle rainbow gradient hue shift stops kelvin',
      drawing: 'M3 11h28M5 11V7m8 4V3m8 8V6m8 5V4',
    },
  ],
  fields: ({ at, write }, move) => {
    const moved = propertyAt(move.target);
    return move.stops.flatMap((stop, k): FieldSpec[] => {
      const set = (value: unknown) => value as Value;
      const label = `${k + 1}.`;
      const kind = moved && Array.isArray(stop.value) ? FIELD_KINDS[moved.kind] : ('number' as const);
      const shown = {
        still: true,
        kind,
        write: write((draft, value) => {
          if (draft.kind === 'stops' && draft.stops[k]) draft.stops[k].value = set(value);
        }),
      };
      const path = `${at}/stops/${k}/value`;
      return [
        moved ? fieldOf(moved, path, label, shown) : { path, label, ...shown, step: 0.1 },
        {
          path: `${at}/stops/${k}/at`,
          label: `${k + 1}. at`,
          kind: 'number',
          unit: '%',
          scale: 0.01,
          min: 0,
          max: 100,
          step: 5,
          still: true,
          write: write((draft, value) => {
            if (draft.kind !== 'stops' || !draft.stops[k]) return;
            draft.stops[k].at = Number(value);
            draft.stops.sort((a, b) => a.at - b.at);
          }),
        },
      ];
    });
  },
  says: ({ stops: row }) => `${row.length} stops`,
};
