import { choice } from '../../document/properties/property';
import { Grids } from './grids';
import { arc, QUARTER, type ProfilePoint } from './lathe';
import { setPiece, size } from './kind';

/** Four bars round an opening, upright; of rectangular section, or of round section as wide as `bar`. */
export const frame = setPiece(
  'frame',
  {
    width: size(),
    height: size(),
    bar: size(),
    depth: size(),
    section: choice(['rectangular', 'round'], 'rectangular'),
  },
  {
    title: 'Frame',
    proportions: (part) => ({
      width: part(1),
      height: part(1.2),
      bar: part(0.05),
      depth: part(0.05),
      section: 'rectangular' as const,
    }),
    mesh({ width, height, bar, depth, section }) {
      const half = Math.min(bar, width, height) / 2;
      // The section: outwards in the frame's plane, forwards, and the normal in these.
      const round = arc(0, 0, half, 0, 2 * Math.PI, QUARTER * 4)[0]!.map((_, k, all): ProfilePoint => {
        const angle = (k / (all.length - 1)) * 2 * Math.PI;
        const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
        return [half * cos, half * sin, cos, sin];
      });
      const d = depth / 2;
      const square: ProfilePoint[][] = [
        [[half, -d, 1, 0], [half, d, 1, 0]],
        [[half, d, 0, 1], [-half, d, 0, 1]],
        [[-half, d, -1, 0], [-half, -d, -1, 0]],
        [[-half, -d, 0, -1], [half, -d, 0, -1]],
      ]; // prettier-ignore
      const [x, y] = [width / 2 - half, height / 2 - half];
      const corners = [[-x, -y], [x, -y], [x, y], [-x, y]] as const; // prettier-ignore
      const outward = [[0, -1], [1, 0], [0, 1], [-1, 0]] as const; // prettier-ignore
      const made = new Grids();
      for (const strip of section === 'round' ? [round] : square) {
        for (let side = 0; side < 4; side++) {
          const n = outward[side]!;
          made.add(strip.length - 1, 1, (u, v) => {
            const [s, t, ns, nt] = strip[Math.round(u * (strip.length - 1))]!;
            // Bars meet at a mitre: at a corner, what is outwards of both sides shifts along both.
            const [corner, beside] = v < 0.5 ? [corners[side]!, outward[(side + 3) % 4]!] : [corners[(side + 1) % 4]!, outward[(side + 1) % 4]!]; // prettier-ignore
            return [
              corner[0] + s * (n[0] + beside[0]),
              corner[1] + s * (n[1] + beside[1]) + height / 2,
              t,
              ns * n[0],
              ns * n[1],
              nt,
            ];
          });
        }
      }
      return made.finish();
    },
  },
);
