import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { screen } from '@testing-library/dom';
import { beforeEach, describe, expect, it } from 'vitest';
import { mount, type Mounted } from '../../testing/mount';
import { ChoiceComponent } from './choice.component';

@Component({
  imports: [ChoiceComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<zr-choice label="Number" [options]="options" [value]="value()" (chosen)="value.set($event)" />`,
})
class HostComponent {
  readonly options = Array.from({ length: 60 }, (_, k) => ({ value: String(k), label: `Number ${k}` }));
  readonly value = signal('0');
}

let page: Mounted<HostComponent>;
const field = () => page.show.getByLabelText<HTMLInputElement>('Number');

beforeEach(async () => {
  page = await mount(HostComponent, {});
});

describe('one of very many', () => {
  it('is found by typing and taken by pressing on it, which leaves the field before the press ends', async () => {
    await page.user.click(field());
    await page.user.type(field(), 'ber 47', { initialSelectionStart: 0, initialSelectionEnd: 99 });
    const option = screen.getByRole('option');
    expect(option.textContent).toBe('Number 47');
    await page.user.pointer({ keys: '[MouseLeft>]', target: option });
    field().blur();
    await page.fixture.whenStable();
    // What lies under the pointer is still what was found.
    expect(screen.getAllByRole('option').map((each) => each.textContent)).toEqual(['Number 47']);
    await page.user.pointer({ keys: '[/MouseLeft]', target: option });
    await page.fixture.whenStable();
    expect(page.fixture.componentInstance.value()).toBe('47');
    expect(field().value).toBe('Number 47');
  });

  it('shows what is chosen again when it is left without a choice', async () => {
    await page.user.click(field());
    await page.user.type(field(), 'nothing like it');
    await page.user.tab();
    await page.fixture.whenStable();
    expect([page.fixture.componentInstance.value(), field().value]).toEqual(['0', 'Number 0']);
  });
});
