import { valueSchema } from '../../document/properties/value';
import { blendValues } from './blend';
import { moveKind } from './kind';
import { paced } from './paces';
import { movePhase } from './phase';

/** One property from one value to another. */
export const ramp = moveKind(
  'ramp',
  {},
  { from: { schema: valueSchema, default: 0 }, to: { schema: valueSchema, default: 1 } },
  {
    title: 'Ramp',
    on: ['shine'],
    cyclic: false,
    pace: 'ease',
    drives: 'value',
    takes: ['number', 'vector', 'rotation'],
    exclusive: true,
    // It ends at what is there now, so that nothing jumps when it is added.
    begin: ({ present }) => (typeof present === 'number' ? { from: 0, to: present > 0 ? present : 1 } : {}),
    value: (move, frame, turns) =>
      blendValues(move.from, move.to, paced(move.pace, movePhase(move, false, frame).within), turns),
    mapValues: (move, change) =>
      void ([move.from, move.to] = change([move.from, move.to]) as [typeof move.from, typeof move.to]),
  },
);
