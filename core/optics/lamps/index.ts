import { bulb } from './bulb';
import { disc } from './disc';
import type { Lamp, LampKind } from './kind';
import { panel } from './panel';
import { spot } from './spot';
import { sun } from './sun';
import { tube } from './tube';

export type { Lamp, LampKind } from './kind';

/** Every kind of lamp. */
export const LAMP_KINDS = { panel, disc, tube, bulb, spot, sun } satisfies Record<string, LampKind>;

export type LampKindName = keyof typeof LAMP_KINDS;
export const LAMP_KIND_NAMES = Object.keys(LAMP_KINDS) as [LampKindName, ...LampKindName[]];
export type KindedLamp = Lamp & { kind: LampKindName };

/** What core knows of a lamp's kind. */
export const lampKind = ({ kind }: { kind: LampKindName }): LampKind => LAMP_KINDS[kind];

/** What a lamp shows of itself from where it is brightest, in mm². */
export function facingArea(lamp: KindedLamp): number {
  const kind = lampKind(lamp);
  return (kind.facing ?? kind.area)(lamp);
}
