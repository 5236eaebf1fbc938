import type { Change } from './change';
import { cut } from './cut';
import { dip } from './dip';
import { fade } from './fade';
import { wipe } from './wipe';

export type { Mask } from './change';

/** Every way in which one clip gives way to the next. */
export const CHANGES = { cut, fade, dip, wipe } satisfies Record<string, Change>;
export const changeKind = (name: keyof typeof CHANGES): Change => CHANGES[name];
