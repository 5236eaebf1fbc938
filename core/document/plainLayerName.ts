/** A light layer's name as a frame's file can hold it: letters, digits and lines only, as other programs split names at dots. */
export const plainLayerName = (name: string): string => name.replace(/[^\p{L}\p{N}_-]+/gu, '_').slice(0, 60) || 'light';
