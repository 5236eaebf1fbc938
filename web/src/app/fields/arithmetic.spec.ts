import { describe, expect, it } from 'vitest';
import { readNumber } from './arithmetic';

describe('typed numbers', () => {
  it.each([
    ['12', 12],
    ['1920/2', 960],
    ['3*(4+1)-2', 13],
    ['-0.5', -0.5],
    ['90 deg', 90],
    ['f/2.8', 2.8],
    ['12,5 mm', 12.5],
    ['1e3 lm', 1000],
    ['2 - -3', 5],
  ])('%s is %d', (text, value) => expect(readNumber(text)).toBeCloseTo(value));
  it.each(['', 'abc', '1/0', '(2', '2 2', 'alert(1)'])('%j is none', (text) => expect(readNumber(text)).toBeNull());
});
