import type { Clip, ClipSource, ProjectDocument } from '@zippy/core/document';
import { CHANGES, FONTS } from '@zippy/core/reel';
import type { Take } from '@zippy/core/wire';
import { choice, field, type FieldGroup, type FieldSpec } from '../kinds/field';
import { pictureSizeFields } from './picture-size';

const WAYS = {
  cut: 'At once',
  fade: 'Fades',
  fromLeft: 'From or to the left',
  fromRight: 'From or to the right',
  fromBelow: 'From or to below',
  fromAbove: 'From or to above',
};
const CHANGE_NAMES = Object.fromEntries(Object.entries(CHANGES).map(([name, { title }]) => [name, title]));
const sourceName = (source: ClipSource): string =>
  source.kind === 'take' ? `take:${source.take}` : source.kind === 'shot' ? `shot:${source.shot}` : source.kind;

/** Fields of a clip on the reel. @param takes from which the one that is shown is chosen */
export function clipFields(document: ProjectDocument, id: string, takes: readonly Take[]): FieldGroup[] {
  const at = `reel/clips/${id}`;
  const clip = document.reel.clips[id];
  if (!clip) return [];
  return [
    {
      title: 'Shows',
      fields: [
        ...shown(at, clip, takes),
        field(`${at}/from`, 'From frame'),
        field(`${at}/to`, 'To frame'),
        ...(clip.source.kind === 'plain'
          ? []
          : [choice(`${at}/play`, 'Plays', { forwards: 'Forwards', backwards: 'Backwards', toAndFro: 'To and fro' })]),
      ],
    },
    ...(clip.source.kind === 'plain'
      ? []
      : [
          {
            title: 'Speed',
            fields: [
              field(`${at}/speed`, clip.ramp === 'none' ? 'Speed' : 'Speed at first'),
              choice(`${at}/ramp`, 'Goes over', { none: 'Not', even: 'Evenly', soft: 'Softly' }),
              ...(clip.ramp === 'none' ? [] : [field(`${at}/speedEnd`, 'Speed at last')]),
              choice(`${at}/between`, 'In between', { nearest: 'Nearest frame', blend: 'Frames mixed' }),
            ],
          },
        ]),
    {
      title: 'Repeated',
      fields: [
        choice(`${at}/repeat`, 'Repeated', { times: 'So many times', length: 'For so long' }),
        clip.repeat === 'times' ? field(`${at}/loop`, 'Times') : field(`${at}/length`, 'Length'),
        field(`${at}/holdBefore`, 'Held before'),
        field(`${at}/holdAfter`, 'Held after'),
      ],
    },
    {
      title: 'From the clip before',
      fields: [
        choice(`${at}/change`, 'Change', CHANGE_NAMES),
        ...(clip.change === 'cut' ? [] : [field(`${at}/changeFrames`, 'Over')]),
        ...(clip.change === 'dip' ? [field(`${at}/changeColor`, 'Colour')] : []),
        ...(clip.change === 'wipe' ? [field(`${at}/wipeTurn`, 'Towards'), field(`${at}/wipeSoft`, 'Softness')] : []),
      ],
    },
    {
      title: 'In the picture',
      fields: [
        ...(clip.source.kind === 'plain'
          ? []
          : [
              choice(`${at}/fit`, 'Fitted', { whole: 'Whole', fill: 'Filling', trueSize: 'Pixel for pixel' }),
              field(`${at}/zoom`, 'Larger'),
              field(`${at}/aimX`, 'Counts, across', { hint: 'The point that stays in sight where the picture is cut' }),
              field(`${at}/aimY`, 'Counts, down', { hint: 'The point that stays in sight where the picture is cut' }),
            ]),
        field(`${at}/ground`, clip.source.kind === 'plain' ? 'Colour' : 'Beside it'),
      ],
    },
  ];
}

/** Which take a clip shows: always the newest of its shot, or one that stays. */
function shown(at: string, { source }: Clip, takes: readonly Take[]): FieldSpec[] {
  if (source.kind !== 'take' && source.kind !== 'shot') return [];
  const shot = source.kind === 'shot' ? source.shot : takes.find(({ id }) => id === source.take)?.shot;
  if (shot === undefined) return [];
  const own = takes.filter((take) => take.shot === shot).sort((a, b) => b.number - a.number);
  return [
    {
      path: `${at}/source`,
      label: 'Take',
      kind: 'choice',
      still: true,
      placeholder: 'A take that is gone',
      options: [
        { value: `shot:${shot}`, label: 'Always the newest' },
        ...own.map(({ id, number }) => ({ value: `take:${id}`, label: `Take ${number}` })),
      ],
      read: (document) => sourceName(document.reel.clips[at.split('/').at(-1)!]?.source ?? source),
      write: (draft, value) => {
        const clip = draft.reel.clips[at.split('/').at(-1)!];
        const [kind, id] = String(value).split(':') as [string, string];
        if (clip) clip.source = kind === 'shot' ? { kind: 'shot', shot: id } : { kind: 'take', take: id };
      },
    },
  ];
}

/** Fields of a title. */
export function titleFields(document: ProjectDocument, id: string): FieldGroup[] {
  const at = `reel/titles/${id}`;
  const title = document.reel.titles[id];
  if (!title) return [];
  const drawn = title.picture !== null;
  const own = Object.values(document.assets).filter(({ kind }) => kind === 'font');
  return [
    {
      title: 'Title',
      fields: [
        ...(drawn
          ? []
          : [
              { path: `${at}/words`, label: 'Words', kind: 'words' as const, still: true },
              {
                path: `${at}/font`,
                label: 'Font',
                kind: 'choice' as const,
                still: true,
                options: [
                  ...Object.entries(FONTS).map(([value, font]) => ({ value, label: font.title })),
                  ...own.map((asset) => ({ value: asset.id, label: asset.name })),
                ],
              },
            ]),
        field(`${at}/start`, 'From frame'),
        field(`${at}/length`, 'Length'),
      ],
    },
    {
      title: 'Place',
      fields: [
        field(`${at}/x`, 'Across', { exact: true }),
        field(`${at}/y`, 'Down', { exact: true }),
        choice(`${at}/align`, 'Held at its', { left: 'Left', middle: 'Middle', right: 'Right' }),
        choice(`${at}/stand`, 'And its', { top: 'Top', middle: 'Middle', bottom: 'Bottom' }),
        field(`${at}/size`, 'Size'),
        field(`${at}/turn`, 'Turn'),
        field(`${at}/opacity`, 'Opacity'),
      ],
    },
    ...(drawn
      ? []
      : [
          {
            title: 'Letters',
            fields: [
              field(`${at}/color`, 'Colour'),
              field(`${at}/spacing`, 'Apart'),
              field(`${at}/lineHeight`, 'Line height'),
              field(`${at}/outline`, 'Outline'),
              field(`${at}/outlineColor`, 'Of the colour'),
            ],
          },
        ]),
    {
      title: 'Comes and goes',
      fields: [
        choice(`${at}/enter`, 'Comes', WAYS),
        ...(title.enter === 'cut' ? [] : [field(`${at}/enterFrames`, 'Over')]),
        choice(`${at}/leave`, 'Goes', WAYS),
        ...(title.leave === 'cut' ? [] : [field(`${at}/leaveFrames`, 'Over')]),
      ],
    },
  ];
}

/** Fields of a sound. */
export function soundFields(document: ProjectDocument, id: string): FieldGroup[] {
  const at = `reel/sounds/${id}`;
  if (!document.reel.sounds[id]) return [];
  return [
    {
      title: 'Sound',
      fields: [
        field(`${at}/start`, 'From frame'),
        field(`${at}/from`, 'Skips', { exact: true, hint: 'Seconds of the file that are left out before' }),
        field(`${at}/lasts`, 'Lasts', { exact: true, hint: '0 plays all that is left of it' }),
        field(`${at}/level`, 'Level'),
        field(`${at}/fadeIn`, 'Comes up over', { exact: true }),
        field(`${at}/fadeOut`, 'Goes down over', { exact: true }),
        field(`${at}/muted`, 'Muted'),
      ],
    },
  ];
}

/** Fields of the film as a whole. */
export function filmFields(document: ProjectDocument): FieldGroup[] {
  return [
    {
      title: 'The film',
      fields: [
        {
          path: 'reel/picture',
          label: 'Own size',
          kind: 'switch',
          still: true,
          hint: 'Otherwise it has that of its first take',
          read: (draft) => Boolean(draft.reel.picture),
          write: (draft, value) => {
            draft.reel.picture = value === true ? { ...draft.picture } : null;
          },
        },
        ...(document.reel.picture ? pictureSizeFields('reel/picture') : []),
        field('reel/closingFrames', 'Ends over', { hint: 'Frames in which the end goes to a colour' }),
        ...(document.reel.closingFrames > 0 ? [field('reel/closingColor', 'In the colour')] : []),
        field('reel/safeAreas', 'Safe areas'),
      ],
    },
  ];
}
