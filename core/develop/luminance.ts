/** Luminance of linear Rec. 709 light (ITU-R BT.709-6). Three numbers, as it is asked for every pixel of a frame. */
export const luminance = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;
