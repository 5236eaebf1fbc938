import { inOrder } from '../document';
import type { Check } from './check';

/** Parts without a finish. */
export const bareParts: Check<{ nodes: string[] }> = ({ nodes }) => {
  const bare = inOrder(nodes).filter((node) => node.mesh && node.finish === null);
  return bare.length > 0 ? [{ nodes: bare.map(({ id }) => id) }] : [];
};
