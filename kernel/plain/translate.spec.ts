import { describe, expect, test } from 'vitest';
import { offersOf, translate, type Offers } from './translate';

const none: Offers = new Map();
/** The translated body of a module without the names that machine.ts gives it. */
const plain = (source: string, imported: Offers = none): string =>
  translate('a.ts', source, () => imported).code.replace(/^import .* from '@machine'; /, '');

describe('numbers keep their width', () => {
  test.each([
    ['let a: f32 = 0.1;', 'let a: f32 = $fround(0.1);'],
    ['let a: f32 = 0.5;', 'let a: f32 = 0.5;'],
    ['function f(a: f32, b: f32): f32 { return a * b + 1; }', 'return $fround($fround(a * b) + 1);'],
    ['function f(a: i32, b: i32): i32 { return a * b; }', 'return $imul(a , b);'],
    ['function f(a: u32): u32 { return a >> 3; }', 'return ((a >>> 3)>>>0);'],
    ['function f(a: u32): void { a *= 0x21f0aaad; }', 'a = $umul(a,( 0x21f0aaad));'],
    ['function f(a: f32): i32 { return <i32>a; }', 'return ((a)|0);'],
    ['function f(a: u32): f32 { return <f32>(a >> 8); }', 'return $fround((((a >>> 8)>>>0)));'],
    ['function f(at: usize): f32 { return load<f32>(at + 4, 8); }', 'return $load_f32(((at + 4)>>>0), 8);'],
    ['function f(a: f32): f32 { return max<f32>(0.1, a); }', 'return Math.max($fround(0.1), a);'],
    ['function f(a: f32): f32 { return sqrt<f32>(a); }', 'return $fround(Math.sqrt(a));'],
  ])('%s', (source, wanted) => {
    expect(plain(source).replace(/\s+/g, ' ')).toContain(wanted.replace(/\s+/g, ' '));
  });

  test('those of another module too', () => {
    const offers = offersOf('b.ts', 'export const SIZE = 12; export function half(a: f32): f32 { return a; }');
    const source = "import { half, SIZE } from './b';\nfunction f(): f32 { return half(0.3) + <f32>SIZE; }";
    expect(plain(source, offers)).toContain('return $fround(half($fround(0.3)) + $fround(SIZE));');
  });
});

test('every line stays where it is', () => {
  const source = '// first\nlet a: f32 = 0.1;\n\nfunction f(): f32 {\n  return a *\n    a;\n}\n';
  expect(plain(source).split('\n')).toHaveLength(source.split('\n').length);
});

describe('what the kernel does not have is an error that names the line', () => {
  test.each([
    ['let a: string = 0;', 'a.ts:1:8: a type "string" is unknown here'],
    ['function f(): void {\n  throw 1;\n}', 'a.ts:2:3: a statement of this kind is not part of the kernel'],
    ['function f(): i32 {\n  return b;\n}', 'a.ts:2:10: "b" is unknown here'],
    ['function f(): void {\n  g(1);\n}', 'a.ts:2:3: "g" is no function that is known here'],
    [
      'function f(): void {\n  const a = () => 1;\n}',
      'a.ts:2:13: an expression of this kind is not part of the kernel',
    ],
    ['class A {}', 'a.ts:1:1: only imports, variables and functions stand in a module'],
    ["import { a } from './b';", 'a.ts:1:10: "a" is not offered there'],
  ])('%s', (source, message) => {
    expect(() => plain(source)).toThrow(message);
  });
});
