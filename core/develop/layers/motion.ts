import type { LayerView } from './layer';

/** Length of the way that is told in full, in pixels. */
const FULL = 32;

export const motion: LayerView = {
  title: 'Motion',
  says: 'Where a surface goes until the next frame: colour is the direction, strength the distance, full at 32 pixels',
  channels: ['motion.X', 'motion.Y'],
  picture(source) {
    const [x, y] = ['motion.X', 'motion.Y'].map((name) => source.channel(name)!) as [Float32Array, Float32Array];
    const pixels = new Float32Array(source.width * source.height * 4).fill(1);
    for (let at = 0; at < x.length; at++) {
      const far = Math.sqrt(Math.min(1, Math.hypot(x[at]!, y[at]!) / FULL));
      const turn = Math.atan2(y[at]!, x[at]!);
      for (let k = 0; k < 3; k++) pixels[at * 4 + k] = far * (0.5 + 0.5 * Math.cos(turn - (k * 2 * Math.PI) / 3));
    }
    return { pixels, range: null };
  },
};
