import { KIND_TUBE } from '@zippy/kernel/layout';
import type { LampKind } from './kind';

/** A cylinder that shines all around from its mantle; its width is its length. */
export const tube: LampKind = {
  title: 'Tube',
  code: KIND_TUBE,
  begin: { power: 700, width: 600, radius: 13 },
  proportions: (size) => ({ width: size * 1.5, radius: size / 30 }),
  around: true,
  area: ({ width, radius }) => 2 * Math.PI * radius * width,
  facing: ({ width, radius }) => 2 * radius * width,
  halves: ({ width, height }) => [width / 2, height / 2],
  reach: ({ width, radius }) => Math.hypot(width / 2, radius),
  sized: ({ width, radius }, [x, y, z]) => ({ width: width * Math.abs(x), radius: radius * Math.abs(y === 1 ? z : y) }),
  along: ({ width, radius }, x) => (Math.abs(x) * width) / 2 + radius,
};
