import { KIND_DISC } from '@zippy/kernel/layout';
import { byRadius, sizedByRadius, softDiscMean, type LampKind } from './kind';

/** A round sheet that shines to one side. */
export const disc: LampKind = {
  title: 'Disc',
  code: KIND_DISC,
  begin: { power: 900 },
  proportions: (size) => ({ radius: size / 2 }),
  area: ({ radius }) => Math.PI * radius ** 2,
  // The mean of a² + b² over the disc is 1/2; see flatRadiance of the kernel.
  mean: ({ gradient, softEdge }) => (softEdge === 0 ? 1 - gradient / 4 : softDiscMean(softEdge, gradient)),
  halves: ({ radius }) => [radius, radius],
  ...byRadius,
  sized: sizedByRadius,
  shape: ({ gradient, softEdge }) => ({ gradient, softEdge }),
};
