import type { Light } from '@zippy/core/document';
import { bulb } from './bulb';
import { card } from './card';
import { disc } from './disc';
import { panel } from './panel';
import { spot } from './spot';
import { sun } from './sun';
import { tube } from './tube';
import type { LampView } from './view';

/** How each kind of lamp is shown. */
export const LAMP_VIEWS: Record<Light['kind'], LampView> = { panel, disc, tube, bulb, spot, sun, card };
