import type { ProjectDocument } from '@zippy/core/document';
import { field, type FieldSpec } from '../kinds/field';

/** Sizes that films are asked for in. */
const READY_SIZES: readonly (readonly [width: number, height: number, shape: string])[] = [
  [1280, 720, 'wide'],
  [1920, 1080, 'wide'],
  [2560, 1440, 'wide'],
  [3840, 2160, 'wide'],
  [7680, 4320, 'wide'],
  [1080, 1080, 'square'],
  [2048, 2048, 'square'],
  [1080, 1350, 'upright'],
  [1080, 1920, 'upright'],
  [2160, 3840, 'upright'],
  [2048, 858, 'very wide'],
  [4096, 1716, 'very wide'],
];
const named = (width: number, height: number) => `${width} × ${height}`;

/** Fields of a picture's size. @param at where it stands in the document */
export function pictureSizeFields(at: 'picture' | 'reel/picture' | `shots/${string}/picture`): FieldSpec[] {
  const sizeIn = (document: ProjectDocument) => {
    if (at === 'reel/picture') return document.reel.picture ?? document.picture;
    const shot = /^shots\/(.*)\/picture$/.exec(at)?.[1];
    return (shot === undefined ? null : document.shots[shot]?.picture) ?? document.picture;
  };
  return [
    {
      path: `${at}/ready`,
      label: 'Ready sizes',
      kind: 'choice',
      placeholder: 'Own size',
      options: READY_SIZES.map(([width, height, shape]) => ({
        value: named(width, height),
        label: `${named(width, height)} ${shape}`,
      })),
      read: (document) => named(sizeIn(document).width, sizeIn(document).height),
      write: (draft, value) => {
        const [width, height] = READY_SIZES.find(([w, h]) => named(w, h) === value) ?? [];
        if (width && height) Object.assign(sizeIn(draft), { width, height });
      },
    },
    field(`${at}/width`, 'Width'),
    field(`${at}/height`, 'Height'),
  ];
}

/** Whether a shot has a picture of another size than the project's, and which. */
export function ownPictureFields(document: ProjectDocument, shot: string): FieldSpec[] {
  return [
    {
      path: `shots/${shot}/picture`,
      label: 'Own size',
      kind: 'switch',
      still: true,
      read: (document) => Boolean(document.shots[shot]?.picture),
      write: (draft, value) => {
        const own = draft.shots[shot];
        if (own) own.picture = value === true ? { ...draft.picture } : null;
      },
    },
    ...(document.shots[shot]?.picture ? pictureSizeFields(`shots/${shot}/picture`) : []),
  ];
}
