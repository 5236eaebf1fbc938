import { encodeModel, type Step } from './onnx';
import { readWeights } from './weights';

/** Channels of what goes in: light, albedo and normal. */
export const INPUTS = 9;
/** The network halves a picture so many times: its sides have to be multiples of this. */
export const WHOLE = 16;

/**
 * The network that the weights belong to, as a model file: five steps down by convolutions and maxima of four pixels, and up again with
 * what was there before (Ronneberger, Fischer and Brox, U-Net, 2015).
 * @param archive weights as they are shipped; see readWeights
 */
export function filterModel(archive: Uint8Array): Uint8Array {
  const weights = readWeights(archive);
  const steps: Step[] = [];
  const wide = (name: string) => {
    steps.push({ operator: 'Cast', inputs: [name], output: `${name}.wide`, attributes: { to: 1 } });
    return `${name}.wide`;
  };
  const convolve = (name: string, from: string, active = true) => {
    const inputs = [from, wide(`${name}.weight`), wide(`${name}.bias`)];
    const output = active ? `${name}.sum` : 'filtered';
    steps.push({ operator: 'Conv', inputs, output, attributes: { kernel_shape: [3, 3], pads: [1, 1, 1, 1] } });
    if (active) steps.push({ operator: 'Relu', inputs: [output], output: name });
    return name;
  };
  const halve = (from: string) => {
    const attributes = { kernel_shape: [2, 2], strides: [2, 2] };
    steps.push({ operator: 'MaxPool', inputs: [from], output: `${from}.half`, attributes });
    return `${from}.half`;
  };
  const join = (below: string, beside: string) => {
    const attributes = { mode: 'nearest', coordinate_transformation_mode: 'asymmetric', nearest_mode: 'floor' };
    steps.push({ operator: 'Resize', inputs: [below, '', 'twice'], output: `${below}.twice`, attributes });
    const output = `${below}.joined`;
    steps.push({ operator: 'Concat', inputs: [`${below}.twice`, beside], output, attributes: { axis: 1 } });
    return output;
  };
  const first = halve(convolve('enc_conv1', convolve('enc_conv0', 'picture')));
  const second = halve(convolve('enc_conv2', first));
  const third = halve(convolve('enc_conv3', second));
  const fourth = halve(convolve('enc_conv4', third));
  let up = convolve('enc_conv5b', convolve('enc_conv5a', fourth));
  up = convolve('dec_conv4b', convolve('dec_conv4a', join(up, third)));
  up = convolve('dec_conv3b', convolve('dec_conv3a', join(up, second)));
  up = convolve('dec_conv2b', convolve('dec_conv2a', join(up, first)));
  up = convolve('dec_conv1b', convolve('dec_conv1a', join(up, 'picture')));
  convolve('dec_conv0', up, false);
  return encodeModel({
    steps,
    weights,
    constants: { twice: [1, 1, 2, 2] },
    input: { name: 'picture', channels: INPUTS },
    output: { name: 'filtered', channels: 3 },
  });
}
