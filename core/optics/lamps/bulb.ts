import { KIND_BULB } from '@zippy/kernel/layout';
import { byRadius, sizedByRadius, type LampKind } from './kind';

/** A ball that shines all around. */
export const bulb: LampKind = {
  title: 'Bulb',
  code: KIND_BULB,
  begin: { power: 400, radius: 20 },
  proportions: (size) => ({ radius: size / 12 }),
  around: true,
  area: ({ radius }) => 4 * Math.PI * radius ** 2,
  facing: ({ radius }) => Math.PI * radius ** 2,
  halves: ({ width, height }) => [width / 2, height / 2],
  ...byRadius,
  sized: sizedByRadius,
};
