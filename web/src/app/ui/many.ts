import { sayNumber } from '@zippy/core/document';

/** A number with what it counts: `1 part`, `2 parts`, `12,000 parts`. */
export const many = (count: number, what: string, several = `${what}s`): string =>
  `${sayNumber(count)} ${count === 1 ? what : several}`;
