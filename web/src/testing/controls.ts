import { within } from '@testing-library/dom';
import type { UserEvent } from '@testing-library/user-event';

/** Chooses from a list that opens. */
export async function choose(user: UserEvent, field: HTMLElement, option: string | RegExp): Promise<void> {
  await user.click(field.querySelector('.mat-mdc-select-trigger') ?? field);
  const list = within(document.body);
  // A list that was left stays behind the next one, as nothing here ends its fading.
  const found = await list.findAllByRole('option', { name: option });
  await user.click(found.at(-1)!);
}

/** What a control says of itself while the pointer rests on it. */
export function hintOf(control: HTMLElement): string {
  const ids = control.getAttribute('aria-describedby')?.split(' ') ?? [];
  return ids.map((id) => document.getElementById(id)?.textContent ?? '').join('');
}
