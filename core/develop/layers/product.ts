import type { LayerView } from './layer';

/** Name of the layer that is the picture without what is seen behind. */
export const PRODUCT_ALONE = 'product';

export const product: LayerView = {
  title: 'Product alone',
  says: 'The picture without what is seen behind, as open as things leave it: shadows on the plate are its darkness',
  channels: ['R', 'G', 'B', 'behind.R', 'behind.G', 'behind.B', 'cover.Y'],
  picture: null,
};
