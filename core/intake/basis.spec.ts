import { createDefaultContainer, KHR_DF_MODEL_UASTC, write } from 'ktx-parse';
import { describe, expect, it } from 'vitest';
import { isKtx2, readKtx2 } from './basis';

/** A UASTC block of one colour (mode 8 of the UASTC specification: mode, RGBA, hints), its bits from the lowest up. */
function solidBlock(color: readonly number[]): number[] {
  const block = new Array<number>(16).fill(0);
  let at = 0;
  const put = (value: number, bits: number) => {
    for (let k = 0; k < bits; k++, at++) block[at >> 3]! |= ((value >> k) & 1) << (at & 7);
  };
  put(0x17, 5);
  for (const channel of color) put(channel, 8);
  return block;
}

function ktx2(colors: readonly (readonly number[])[]): Uint8Array {
  const container = createDefaultContainer();
  const [descriptor] = container.dataFormatDescriptor;
  Object.assign(container, { pixelWidth: 4 * colors.length, pixelHeight: 4, levelCount: 1 });
  Object.assign(descriptor!, {
    colorModel: KHR_DF_MODEL_UASTC,
    texelBlockDimension: [3, 3, 0, 0],
    bytesPlane: [16, 0, 0, 0, 0, 0, 0, 0],
  });
  descriptor!.samples = [
    {
      channelType: 3,
      bitOffset: 0,
      bitLength: 127,
      samplePosition: [0, 0, 0, 0],
      sampleLower: 0,
      sampleUpper: 0xffffffff,
    },
  ];
  const levelData = new Uint8Array(colors.flatMap(solidBlock));
  container.levels = [{ levelData, uncompressedByteLength: levelData.length }];
  return write(container);
}

describe('KTX2', () => {
  it('unpacks to the colours its blocks hold', async () => {
    const bytes = ktx2([
      [200, 100, 50, 255],
      [0, 0, 255, 128],
    ]);
    expect(isKtx2(bytes)).toBe(true);
    const { width, height, data } = await readKtx2(bytes, 'two.ktx2');
    expect([width, height, data.length]).toEqual([8, 4, 8 * 4 * 4]);
    expect([...data.slice(0, 4)]).toEqual([200, 100, 50, 255]);
    expect([...data.slice(-4)]).toEqual([0, 0, 255, 128]);
  });

  it('that is cut off or full of nonsense is refused with a sentence', async () => {
    const bytes = ktx2([[1, 2, 3, 255]]);
    for (const broken of [bytes.slice(0, 60), bytes.slice(0, bytes.length - 8), new Uint8Array(200).fill(7)]) {
      await expect(readKtx2(broken, 'bad.ktx2')).rejects.toThrow(/"bad.ktx2" cannot be unpacked/);
    }
    expect(isKtx2(new Uint8Array([1, 2, 3]))).toBe(false);
  });
});
