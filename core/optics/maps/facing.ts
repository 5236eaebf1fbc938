import { SOURCE_FACING } from '@zippy/kernel/layout';
import { mapSource } from './kind';

/** How squarely the surface is looked at: bright where it faces the eye, dark along its outline. */
export const facing = mapSource('facing', {}, { title: 'Facing', code: SOURCE_FACING });
