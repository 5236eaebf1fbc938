import { describe, expect, it } from 'vitest';
import { readNumber } from './arithmetic';

describe('typed numbers', () => {
  it.each([
    ['12', '', 12],
    ['1920/2', '', 960],
    ['3*(4+1)-2', '', 13],
    ['-0.5', '', -0.5],
    ['2 - -3', '', 5],
    ['35%', '', 0.35],
    ['90 deg', '°', 90],
    ['2 turns', '°', 720],
    ['f/2.8', 'f/', 2.8],
    ['12,5 mm', 'mm', 12.5],
    ['(1+1) cm', 'mm', 20],
    ['2 in', 'mm', 50.8],
    ['1e3 lm', 'lm', 1000],
    ['1.2klm', 'lm', 1200],
    ['2700 K', 'K', 2700],
    ['150 %', '×', 1.5],
    ['2 s', 'frames', 50],
    ['36 frames', 'frames', 36],
  ])('%s in %j is %d', (text, unit, value) => expect(readNumber(text, unit, 25)).toBeCloseTo(value));
  it.each([
    ['', ''],
    ['abc', ''],
    ['1/0', ''],
    ['(2', ''],
    ['2 2', ''],
    ['alert(1)', ''],
    ['3 kg', 'mm'],
    ['20 lm', 'K'],
    ['1 constructor', 'mm'],
  ])('%j is none in %j', (text, unit) => expect(readNumber(text, unit)).toBeNull());
});
