import '@angular/compiler';
import { describe, expect, it } from 'vitest';
import { Ask } from './ask';

describe('a question', () => {
  it('for a name gives it without spaces around, or nothing', async () => {
    const ask = new Ask();
    const named = ask.name('Name of the project', 'Rename', 'Kettle');
    expect(ask.question()).toMatchObject({ title: 'Name of the project', name: 'Kettle', action: 'Rename' });
    ask.question()!.answer('  Teapot ');
    expect(await named).toBe('Teapot');
    expect(ask.question()).toBeNull();
    for (const typed of ['   ', null]) {
      const none = ask.name('Name', 'Keep');
      ask.question()!.answer(typed);
      expect(await none).toBeNull();
    }
  });

  it('is answered no when another one takes its place', async () => {
    const ask = new Ask();
    const first = ask.sure('Delete?', 'It goes.', 'Delete');
    const second = ask.sure('Really?', 'It goes.', 'Delete');
    expect(await first).toBe(false);
    ask.question()!.answer('');
    expect(await second).toBe(true);
  });
});
