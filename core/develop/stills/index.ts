import { avif } from './avif';
import { exr } from './exr';
import { exrFloat } from './exrFloat';
import { exrLayers } from './exrLayers';
import { jpeg } from './jpeg';
import { png } from './png';
import { png16 } from './png16';
import type { StillFormat } from './still';
import { tiff16 } from './tiff16';
import { webp } from './webp';

export type { StillFormat, StillPlan } from './still';

/** Every form in which single frames leave. */
export const STILL_FORMATS = { png, png16, jpeg, tiff16, webp, avif, exr, exrFloat, exrLayers } satisfies Record<
  string,
  StillFormat
>;

export type StillFormatName = keyof typeof STILL_FORMATS;
export const STILL_FORMAT_NAMES = Object.keys(STILL_FORMATS) as [StillFormatName, ...StillFormatName[]];
/** One of the forms, by its name. */
export const stillFormat = (name: StillFormatName): StillFormat => STILL_FORMATS[name];
