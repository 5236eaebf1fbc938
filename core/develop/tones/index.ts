import type { Look } from '../../document';
import { film } from './film';
import { neutral } from './neutral';
import { print } from './print';
import { soft } from './soft';
import { straight } from './straight';
import { strong } from './strong';
import type { Tone } from './tone';
import { trueColor } from './trueColor';
import { wide } from './wide';

export type { Tone } from './tone';

/** Every way in which light becomes what a display shows. */
export const TONES: Readonly<Record<Look['tone'], Tone>> = {
  neutral,
  soft,
  strong,
  trueColor,
  film,
  print,
  wide,
  straight,
};
