import { describe, expect, it } from 'vitest';
import { sayNumber } from './index';

describe('numbers in sentences', () => {
  it.each([0, 7, 999, 1000, 12_345, 123_456, 1_234_567, -1000, -123, 0.5, 2.35, 1234.5678, 3.0004, 0.0004, 1e15])(
    'say %d as the language does',
    (value) => expect(sayNumber(value)).toBe(value.toLocaleString('en')),
  );

  it('of any size are said', () => {
    expect(sayNumber(3e21)).toBe('3e+21');
    expect(sayNumber(Infinity)).toBe('Infinity');
  });
});
