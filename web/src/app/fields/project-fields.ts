import type { ProjectDocument } from '@zippy/core/document';
import { conformFrameRate } from '@zippy/core/motion';
import { choice, field, type FieldGroup, type FieldSpec } from '../kinds/field';
import { pictureSizeFields } from './picture-size';

type FrameRate = ProjectDocument['frameRate'];

/** Frames per second that films are asked for in. */
const RATES: readonly FrameRate[] = [
  { numerator: 12, denominator: 1 },
  { numerator: 15, denominator: 1 },
  { numerator: 24_000, denominator: 1001 },
  { numerator: 24, denominator: 1 },
  { numerator: 25, denominator: 1 },
  { numerator: 30_000, denominator: 1001 },
  { numerator: 30, denominator: 1 },
  { numerator: 48, denominator: 1 },
  { numerator: 50, denominator: 1 },
  { numerator: 60_000, denominator: 1001 },
  { numerator: 60, denominator: 1 },
  { numerator: 120, denominator: 1 },
];
const nameOf = ({ numerator, denominator }: FrameRate) => `${numerator}/${denominator}`;
const label = ({ numerator, denominator }: FrameRate) => `${Number((numerator / denominator).toFixed(3))} a second`;

/** What stays as it was when a project gets another frame rate. */
export type Kept = 'times' | 'frames';

/** What is said once for the whole project. */
export function projectFields(document: ProjectDocument, kept: Kept): FieldGroup[] {
  return [
    { title: 'Film', fields: [frameRateField(document.frameRate, kept), ...pictureSizeFields('picture')] },
    {
      title: 'Files',
      fields: [
        { ...field('settings/fileNames', 'Called'), kind: 'text' as const },
        field('settings/dotsPerInch', 'On paper'),
      ],
    },
    {
      title: 'Page',
      fields: [
        choice('settings/lengthUnit', 'Lengths in', {
          mm: 'Millimetres',
          cm: 'Centimetres',
          m: 'Metres',
          inch: 'Inches',
        }),
      ],
    },
  ];
}

function frameRateField(present: FrameRate, kept: Kept): FieldSpec {
  const known = RATES.some((rate) => nameOf(rate) === nameOf(present));
  return {
    path: 'frameRate',
    label: 'Frames',
    kind: 'choice',
    options: [...(known ? [] : [present]), ...RATES].map((rate) => ({ value: nameOf(rate), label: label(rate) })),
    read: (document) => nameOf(document.frameRate),
    write: (draft, value) => {
      const [numerator, denominator] = String(value).split('/').map(Number) as [number, number];
      if (kept === 'times') conformFrameRate(draft, { numerator, denominator });
      else draft.frameRate = { numerator, denominator };
    },
  };
}
