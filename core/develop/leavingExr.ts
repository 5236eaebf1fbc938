import { readExr, readExrHeader, writeExr, type Deflate, type ExrChannel } from './exr';

/** What only developing needs. */
const INNER = /^(spread\.[NAZ]|specks\.Y|part\.id)$/;
/** Numbers that stand for things or measure them lose their meaning in halves. */
const EXACT = /^(Z|distance\.Y|position\.[XYZ]|crypto_.*)$/;
const LETTERS = ['R', 'G', 'B'];

/**
 * A kept frame as the file that leaves: linear light without noise and specks, and every layer as it was rendered. What was cleaned is
 * in it as it was too, as `raw`: to that the lights add up.
 * @param cleaned the light as the look cleans it: four values a pixel; null leaves it as it was rendered
 * @param apart one file a layer instead of one with all
 * @returns files by the name of the layer they hold, empty for all
 * @throws UserProblem `exr-broken`
 */
export function leavingExr(
  bytes: Uint8Array,
  cleaned: Float32Array | null,
  { samples, apart }: { samples: 'half' | 'float'; apart: boolean },
  deflate?: Deflate,
): { layer: string; bytes: Uint8Array<ArrayBuffer> }[] {
  const { text } = readExrHeader(bytes);
  const { width, height, channels } = readExr(bytes, deflate, (name) => !INNER.test(name));
  const all = channels.flatMap((channel): ExrChannel[] => {
    const own = channel.type === 'uint' || EXACT.test(channel.name) ? channel : { ...channel, type: samples };
    const letter = LETTERS.indexOf(channel.name);
    if (letter < 0 || !cleaned) return [own];
    const data = new Float32Array(width * height);
    for (let k = 0; k < data.length; k++) data[k] = cleaned[k * 4 + letter]!;
    return [
      { ...own, data },
      { ...own, name: `raw.${channel.name}` },
    ];
  });
  if (!apart) return [{ layer: '', bytes: writeExr({ width, height, channels: all }, text, deflate) }];
  const layers = new Map<string, ExrChannel[]>();
  for (const channel of all) {
    const dot = channel.name.lastIndexOf('.');
    // All ranks of one kind of mattes belong together.
    const layer = dot < 0 ? (channel.name === 'Z' ? 'depth' : 'picture') : channel.name.slice(0, dot).replace(/^(crypto_\w+?)\d\d$/, '$1'); // prettier-ignore
    layers.set(layer, [...(layers.get(layer) ?? []), channel]);
  }
  return [...layers].map(([layer, own]) => ({
    layer,
    bytes: writeExr(
      { width, height, channels: own },
      layer.startsWith('crypto_') ? mattesOnly(text, layer) : {},
      deflate,
    ),
  }));
}

/** The attributes of one kind of mattes. */
function mattesOnly(text: Record<string, string>, kind: string): Record<string, string> {
  const key = Object.keys(text).find((each) => each.endsWith('/name') && text[each] === kind);
  const at = key?.replace(/name$/, '');
  return Object.fromEntries(Object.entries(text).filter(([name]) => at !== undefined && name.startsWith(at)));
}
