import { distance } from '@zippy/core/geometry';
import type { MoveOf, MoveView } from './view';

const tidy = (length: number): number => Number(length.toPrecision(2));

export const dolly: MoveView<MoveOf<'dolly'>> = {
  family: 'camera',
  needs: 'Select a camera or light',
  starts: [
    {
      title: 'Push in',
      does: 'Towards what it looks at',
      words: 'dolly forward approach closer track in',
      drawing: 'M3 8h20m-5-4 5 4-5 4M28 2v12',
      numbers: (_move, { camera, size }) => ({ forward: tidy(way(camera, size) * 0.3) }),
    },
    {
      title: 'Pull out',
      does: 'Away from what it looks at',
      words: 'dolly back away track out reveal',
      drawing: 'M26 8H6m5-4-5 4 5 4M30 2v12',
      numbers: (_move, { camera, size }) => ({ forward: -tidy(way(camera, size) * 0.3) }),
    },
    {
      title: 'Truck',
      does: 'Sideways, looking the same way',
      words: 'slide sideways lateral pan tracking',
      drawing: 'M3 12h28m-5-4 5 4-5 4M17 2v6',
      numbers: (_move, { size }) => ({ right: tidy(size * 0.5), keepAim: false }),
    },
    {
      title: 'Crane',
      does: 'Up, still looking at the same point',
      words: 'boom jib pedestal rise up',
      drawing: 'M4 14 17 2m-5 0 5 0 0 5M17 2l10 9',
      numbers: (_move, { size }) => ({ up: tidy(size * 0.6) }),
    },
  ],
  fields: ({ own }) => [
    own('forward', 'Forward'),
    own('right', 'To the right'),
    own('up', 'Up'),
    own('keepAim', 'Aim stays'),
    own('arrives', 'Ends here'),
  ],
  says: ({ forward, right, up }) => `${Math.round(Math.hypot(forward, right, up))} mm`,
};

const way = (camera: Parameters<typeof camerasWay>[0] | null, size: number): number =>
  camera ? camerasWay(camera) : size * 2;
const camerasWay = ({
  position,
  target,
}: {
  position: readonly [number, number, number];
  target: readonly [number, number, number];
}) => distance(position, target);
