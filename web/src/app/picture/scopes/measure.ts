import {
  clipping,
  histogram,
  parade,
  vectorscope,
  waveform,
  type Clipping,
  type Density,
  type Histogram,
  type ShownPicture,
} from '@zippy/core/develop';

export const SCOPES = { histogram: 'Levels', waveform: 'Luma', parade: 'RGB', vectorscope: 'Colours' } as const;
export type ScopeKind = keyof typeof SCOPES;

/** Columns of a waveform that are told apart. */
const ACROSS = 256;

/** What a scope says of a picture. */
export interface Measured extends Clipping {
  kind: ScopeKind;
  width: number;
  height: number;
  histogram: Histogram | null;
  /** Of a waveform one, of a parade three. */
  planes: Density[];
}

export function measurePicture(picture: ShownPicture, kind: ScopeKind): Measured {
  const { width, height } = picture;
  const planes =
    kind === 'waveform'
      ? [waveform(picture, ACROSS)]
      : kind === 'parade'
        ? parade(picture, Math.floor(ACROSS / 3))
        : kind === 'vectorscope'
          ? [vectorscope(picture)]
          : [];
  return { kind, width, height, planes, histogram: kind === 'histogram' ? histogram(picture) : null, ...clipping(picture) }; // prettier-ignore
}
