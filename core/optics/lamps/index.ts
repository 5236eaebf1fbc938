import { frameAlong, quaternionAbout, rotateVector, subtract, type Vector } from '../../geometry';
import { bulb } from './bulb';
import { card } from './card';
import { disc } from './disc';
import type { Lamp, LampKind } from './kind';
import { panel } from './panel';
import { spot } from './spot';
import { sun } from './sun';
import { tube } from './tube';

export type { Lamp, LampKind } from './kind';

/** Every kind of lamp. */
export const LAMP_KINDS = { panel, disc, tube, bulb, spot, sun, card } satisfies Record<string, LampKind>;

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

/** The lamp that shines where another stands for it; most stand for themselves. */
export function shiningLamp<L extends KindedLamp>(lamp: L, away?: number): L {
  const stands = lampKind(lamp).stands?.(lamp, away);
  return stands ? { ...lamp, ...stands.lamp, kind: stands.kind } : lamp;
}

/** Its own axes in the world: z is where it is aimed. */
export function lampFrame({ position, target, roll }: Lamp): { x: Vector; y: Vector; z: Vector } {
  const { x, y, z } = frameAlong(subtract(target, position));
  if (roll === 0) return { x, y, z };
  const turn = quaternionAbout(z, roll);
  return { x: rotateVector(x, turn), y: rotateVector(y, turn), z };
}
