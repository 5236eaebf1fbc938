import { describe, expect, it } from 'vitest';
import { compareFamiliar } from './familiar';

describe('a length beside a familiar thing', () => {
  it.each([
    [297, 'about as long as a sheet of paper'],
    [244, 'about as long as a sheet of paper'],
    [620, '1.4 times as long as a school bag'],
    [250_000, '58 times as long as a car'],
    [0.244, '3.5 % of a grain of rice'],
    [0, '0 % of a grain of rice'],
  ])('of %d mm', (size, sentence) => {
    expect(compareFamiliar(size).sentence).toBe(sentence);
  });

  it('takes the thing that is nearest by their ratio, and says how long that is', () => {
    for (const size of [5, 20, 60, 100, 180, 300, 450, 1000, 2500, 5000]) {
      const { size: other } = compareFamiliar(size);
      expect(Math.max(size / other, other / size)).toBeLessThan(1.6);
    }
  });
});
