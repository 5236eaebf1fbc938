import { FINDINGS } from '@zippy/core/document';
import { MEND_OF } from '@zippy/core/intake';
import { describe, expect, it } from 'vitest';
import { sayFinding } from './findings';

describe('what was found in a mesh', () => {
  it('is said of one and of many, with what was done about it', () => {
    expect(sayFinding('inverted', 1, 'orientation')).toBe('1 triangle was inside out and was turned over');
    expect(sayFinding('inverted', 2, 'orientation')).toBe('2 triangles were inside out and were turned over');
    expect(sayFinding('unwelded', 2_500_858, 'weld')).toBe('2,500,858 corners stood on another alike and were joined');
    expect(sayFinding('duplicates', 1)).toBe('1 triangle was there twice');
  });

  it('has words for every finding and every mend', () => {
    for (const finding of FINDINGS) {
      for (const count of [1, 3]) {
        const said = sayFinding(finding, count, MEND_OF[finding]);
        expect(said).toMatch(new RegExp(`^${count} (triangle|corner|normal|edge)${count === 1 ? ' ' : 's '}`));
        expect(said).not.toContain('undefined');
      }
    }
  });
});
