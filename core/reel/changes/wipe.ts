import type { Change } from './change';

export const wipe: Change = {
  title: 'Wipe',
  overlaps: true,
  colored: false,
  mask: (at, { width, height }, { wipeTurn, wipeSoft }) => {
    // Pictures count from the top, angles from the right upwards.
    const [dx, dy] = [Math.cos(wipeTurn), -Math.sin(wipeTurn)];
    const soft = Math.max(1, wipeSoft * width);
    const reach = (Math.abs(dx) * width + Math.abs(dy) * height) / 2;
    // Begins where nothing is seen yet and ends where all is, softness and all.
    const edge = -reach + at * (2 * reach + soft);
    const point = (along: number): [number, number] => [width / 2 + dx * along, height / 2 + dy * along];
    return { kind: 'edge', from: point(edge - soft), to: point(edge) };
  },
};
