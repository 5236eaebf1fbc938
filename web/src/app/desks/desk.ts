import type { Type } from '@angular/core';
import type { IconName } from '../ui/icon.component';

/** A desk: its place in the rail, and what its panel shows, which is loaded when it is first opened. */
export interface DeskEntry {
  name: string;
  icon: IconName;
  load(): Promise<Type<unknown>>;
}
