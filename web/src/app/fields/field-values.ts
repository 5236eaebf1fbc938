import { computed, inject, Injectable, signal } from '@angular/core';
import { readProperty, type Value } from '@zippy/core/document';
import type { FieldGroup, FieldSpec } from '../kinds/field';
import { many } from '../ui/many';
import { Notices } from '../store/notices';
import { Studio } from '../store/studio';
import { propertyName } from './field-usage';

/** Values of one group of a card, by the names of their properties. */
interface Copied {
  title: string;
  values: ReadonlyMap<string, Value>;
}

/** Carries the values of one group of a card, such as the coat of a finish, to the same group of other things. */
@Injectable({ providedIn: 'root' })
export class FieldValues {
  private readonly studio = inject(Studio);
  private readonly notices = inject(Notices);
  private readonly copied = signal<Copied | null>(null);
  readonly title = computed(() => this.copied()?.title ?? null);

  copy({ title, fields }: FieldGroup): void {
    const [present, document] = [this.studio.presentAtRest(), this.studio.document()];
    const values = fields.filter(carried).flatMap(({ path }): [string, Value][] => {
      const value = readProperty(present, path) ?? readProperty(document, path);
      return value === undefined ? [] : [[propertyName(path), value]];
    });
    this.copied.set({ title, values: new Map(values) });
    this.notices.say(`Copied ${many(values.length, 'value')} of "${title}".`);
  }

  fits({ fields }: FieldGroup): boolean {
    const copied = this.copied();
    return copied !== null && fields.some((spec) => carried(spec) && copied.values.has(propertyName(spec.path)));
  }

  /** Gives all that is selected the values that were copied, in one step. */
  paste({ title, fields }: FieldGroup): void {
    const copied = this.copied()?.values;
    const values: Record<string, Value> = {};
    for (const spec of fields.filter(carried)) {
      const value = copied?.get(propertyName(spec.path));
      if (value !== undefined)
        for (const { path, bring } of [spec, ...(spec.also ?? [])]) values[path] = bring ? bring(value) : value;
    }
    this.studio.setProperties(`Values of ${title.toLowerCase()}`, values);
  }
}

const carried = ({ kind, still, read, write }: FieldSpec): boolean =>
  !still && !read && !write && kind !== 'pace' && kind !== 'curves';
