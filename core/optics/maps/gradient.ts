import { SOURCE_GRADIENT } from '@zippy/kernel/layout';
import { choice } from '../../document/properties/property';
import { mapSource } from './kind';

const SHAPES = ['linear', 'radial', 'spherical', 'angular'] as const;

/** From dark to bright across what it is laid on: along it, from its middle outwards, or once round it. */
export const gradient = mapSource(
  'gradient',
  { shape: choice(SHAPES, 'linear') },
  {
    title: 'Gradient',
    code: SOURCE_GRADIENT,
    parameters: ({ shape }) => [SHAPES.indexOf(shape)],
  },
);
