import { KIND_SUN } from '@zippy/kernel/layout';
import { byRadius, type LampKind } from './kind';

/** A round source so far away that only its direction counts. */
export const sun: LampKind = {
  title: 'Sun',
  code: KIND_SUN,
  units: ['lux'],
  begin: { power: 2000, unit: 'lux' },
  proportions: (size) => ({ radius: size / 2 }),
  far: true,
  area: ({ radius }) => Math.PI * radius ** 2,
  halves: ({ radius }) => [radius, radius],
  ...byRadius,
  shape: ({ angularSize }) => ({ cosOuter: Math.cos(angularSize / 2) }),
};
