import type { FieldSpec } from '../field';
import type { MoveFields } from './view';

type Axis = readonly [number, number, number];

const AXES: Record<string, Axis> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

const nameOf = (axis: Axis): string =>
  Object.keys(AXES).find((name) => AXES[name]!.every((v, k) => Math.abs(v - axis[k]!) < 1e-9)) ?? 'own';

/** Fields of what something turns about. */
export function aboutFields(
  { at, own, write }: Pick<MoveFields, 'at' | 'own' | 'write'>,
  { axis, center }: { axis: Axis; center: Axis | null },
): FieldSpec[] {
  return [
    {
      path: `${at}/axis`,
      label: 'About',
      kind: 'choice',
      still: true,
      options: [
        { value: 'x', label: 'X' },
        { value: 'y', label: 'Y, upright' },
        { value: 'z', label: 'Z' },
        { value: 'own', label: 'An axis of its own' },
      ],
      read: () => nameOf(axis),
      write: write((move, value) => {
        if ('axis' in move && AXES[String(value)]) move.axis = [...AXES[String(value)]!];
      }),
    },
    own('axis', 'Axis'),
    {
      path: `${at}/center`,
      label: 'Round',
      kind: 'choice',
      still: true,
      options: [
        { value: 'own', label: 'Its turning point' },
        { value: 'point', label: 'A point of its own' },
      ],
      read: () => (center ? 'point' : 'own'),
      write: write((move, value) => {
        if ('center' in move) move.center = value === 'point' ? (move.center ?? [0, 0, 0]) : null;
      }),
    },
    ...(center
      ? [{ path: `${at}/center`, label: 'Point', kind: 'vector' as const, still: true, unit: 'mm', step: 1 }]
      : []),
  ];
}
