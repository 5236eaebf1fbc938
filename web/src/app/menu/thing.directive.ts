import { Directive, inject, input } from '@angular/core';
import type { KeyMark, Selected } from '../store/view/view.state';
import { ThingMenu } from './thing-menu';

/** Something that stands for a thing of the project: it has the thing's context menu. */
@Directive({ selector: '[zrThing]', host: { '(contextmenu)': 'menu.openFor($event, thing())' } })
export class ThingDirective {
  readonly menu = inject(ThingMenu);
  readonly thing = input.required<Selected | { key: KeyMark }>({ alias: 'zrThing' });
}
