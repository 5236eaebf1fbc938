import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { mount, type Mounted } from '../../../testing/mount';
import { openStudio } from '../../../testing/studioBed';
import { AskDialogComponent } from './ask-dialog.component';
import { Ask } from './ask';

let ask: Ask;
let page: Mounted<AskDialogComponent>;

beforeEach(async () => {
  openStudio();
  ask = TestBed.inject(Ask);
  page = await mount(AskDialogComponent);
});

describe('a question', () => {
  it('for a name begins with the present one and is answered with Enter', async () => {
    const answer = ask.name('Name of the project', 'Rename', 'Old');
    await page.fixture.whenStable();
    const field = page.show.getByLabelText<HTMLInputElement>('Name');
    expect(field.value).toBe('Old');
    await page.user.clear(field);
    await page.user.type(field, '  New  {Enter}');
    expect(await answer).toBe('New');
    await page.fixture.whenStable();
    expect(page.show.queryByRole('alertdialog')).toBeNull();
  });

  it('is left with Escape, beside the dialog, and with its button', async () => {
    const ways = [
      () => page.user.type(page.show.getByLabelText('Name'), '{Escape}'),
      () => page.user.click(page.host.querySelector('.dialog-back')!),
      () => page.user.click(page.show.getByRole('button', { name: 'Leave it' })),
    ];
    for (const leave of ways) {
      const answer = ask.name('Name of the version', 'Keep');
      await page.fixture.whenStable();
      await leave();
      expect(await answer).toBeNull();
    }
  });

  it('for yes or no shows no field', async () => {
    const answer = ask.sure('Delete it?', 'This cannot be undone.', 'Delete');
    await page.fixture.whenStable();
    expect(page.host.querySelector('input')).toBeNull();
    expect(page.host.textContent).toContain('This cannot be undone.');
    await page.user.click(page.show.getByRole('button', { name: 'Delete' }));
    expect(await answer).toBe(true);
  });
});
