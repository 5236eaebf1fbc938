import { Injectable } from '@angular/core';
import type { FieldGroup, FieldSpec } from '../kinds/field';

const KEPT = 'zippy-fields-used';
/** How often a field has to be changed before it leads. */
const LEAST = 3;
const MOST_LEADING = 3;

/** Which fields a user changes most; remembered in this browser. */
@Injectable({ providedIn: 'root' })
export class FieldUsage {
  private readonly counts: Record<string, number> = kept();
  /** One drag over a number changes it once. */
  private last = '';

  count(path: string, gesture: string | undefined): void {
    const name = propertyName(path);
    const change = `${name} ${gesture ?? ''}`;
    if (gesture && change === this.last) return;
    this.last = change;
    this.counts[name] = (this.counts[name] ?? 0) + 1;
    localStorage.setItem(KEPT, JSON.stringify(this.counts));
  }

  /** Names of the three properties that are changed most of those that have fields here, the most used first. */
  leading(groups: readonly FieldGroup[]): string[] {
    const names = [...new Set(groups.flatMap(({ fields }) => fields.map(({ path }) => propertyName(path))))];
    return names
      .filter((name) => (this.counts[name] ?? 0) >= LEAST)
      .sort((a, b) => this.counts[b]! - this.counts[a]!)
      .slice(0, MOST_LEADING);
  }
}

/** Groups with the fields of some properties in a group before all others, called by their groups where one name is used twice. */
export function withLeading(groups: readonly FieldGroup[], names: readonly string[]): FieldGroup[] {
  if (names.length === 0) return [...groups];
  const all = groups.flatMap(({ fields }) => fields);
  const lead = names.flatMap((name): FieldSpec[] => {
    const group = groups.find(({ fields }) => fields.some(({ path }) => propertyName(path) === name));
    const field = group?.fields.find(({ path }) => propertyName(path) === name);
    if (!group || !field) return [];
    const twice = all.filter(({ label }) => label === field.label).length > 1;
    return [twice ? { ...field, label: `${group.title}: ${field.label.toLowerCase()}` } : field];
  });
  const paths = new Set(lead.map(({ path }) => path));
  const others = groups.map(({ title, fields }) => ({ title, fields: fields.filter(({ path }) => !paths.has(path)) }));
  return [{ title: 'Changed most', fields: lead }, ...others.filter(({ fields }) => fields.length > 0)];
}

/** `lights/ID/power` is `lights/power` of whatever light. */
export const propertyName = (path: string): string =>
  path.replace(/^shots\/[^/]+\/moves\//, 'moves/').replace(/^([^/]+)\/[^/]+\//, '$1/');

function kept(): Record<string, number> {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(KEPT) ?? '{}');
    if (typeof read !== 'object' || read === null) return {};
    return Object.fromEntries(
      Object.entries(read).filter((each): each is [string, number] => Number.isFinite(each[1])),
    );
  } catch {
    return {};
  }
}
