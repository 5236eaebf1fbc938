import { describe, expect, it } from 'vitest';
import { fileName, NAME_WORDS, patternFault } from './fileName';

const named = { project: 'Table radio', shot: 'Hero / view', take: 3, frame: 17, width: 960, height: 540 };

describe('the name of a file', () => {
  it('is what the pattern says', () => {
    expect(fileName('{project}_{shot}_{take}_{frame}', named)).toBe('Table-radio_Hero-view_take03_0017');
    expect(fileName('{frame}.{size}', named)).toBe('0017.960x540');
  });

  it('says the frame always, and is never empty', () => {
    expect(fileName('still', named)).toBe('still_0017');
    expect(fileName('  ', named)).toBe('Table-radio_Hero-view_take03_0017');
    expect(fileName('{project}{frame}', { ...named, project: '///' })).toBe('0017');
  });

  it.each(['../../etc/{frame}', '..\\{frame}', '/root/{frame}', 'a\0b{frame}', '{shot}{frame}'])(
    'leads nowhere: %s',
    (pattern) => {
      const name = fileName(pattern, { ...named, shot: '../..' });
      expect(name).not.toMatch(/[/\\\0]|^\./);
      expect(name).toContain('0017');
    },
  );

  it('is short enough for a disk, and still says the frame', () => {
    const name = fileName('{project}_{frame}', { ...named, project: '🪑'.repeat(10) + 'x'.repeat(400) });
    expect(name.length).toBeLessThanOrEqual(120);
    expect(name).toMatch(/_0017$/);
  });

  it('keeps letters of every language', () => {
    expect(fileName('{project}_{frame}', { ...named, project: 'Café テーブル' })).toBe('Café-テーブル_0017');
  });

  it('tells what stands for nothing', () => {
    expect(patternFault('{project}_{frame}')).toBeNull();
    expect(patternFault('{clip}_{frame}')).toBe(`{clip} stands for nothing. Use ${NAME_WORDS.map((word) => `{${word}}`).join(', ')}.`); // prettier-ignore
  });
});
