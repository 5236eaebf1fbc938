import { KIND_PANEL } from '@zippy/kernel/layout';
import { softMeans, type LampKind } from './kind';

/** A rectangle that shines to one side. */
export const panel: LampKind = {
  title: 'Panel',
  code: KIND_PANEL,
  begin: { power: 900 },
  proportions: (size) => ({ radius: size / 2 }),
  area: ({ width, height }) => width * height,
  // The mean of a² + b² over the square is 2/3; see flatRadiance of the kernel.
  mean: ({ gradient, softEdge }) => {
    if (softEdge === 0) return 1 - gradient / 3;
    const { whole, square } = softMeans(softEdge);
    return whole * (whole - gradient * square);
  },
  halves: ({ width, height }) => [width / 2, height / 2],
  reach: ({ width, height }) => Math.hypot(width, height) / 2,
  along: ({ width, height }, x, y) => (Math.abs(x) * width + Math.abs(y) * height) / 2,
  sized: ({ width, height }, [x, y]) => ({ width: width * Math.abs(x), height: height * Math.abs(y) }),
  shape: ({ gradient, softEdge }) => ({ gradient, softEdge }),
};
