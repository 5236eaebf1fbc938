import type { CheckName, Fault, FaultOf } from '@zippy/core/checks';
import { bareParts } from './bare-parts';
import { darkness } from './darkness';
import { noCamera } from './no-camera';
import { lateMove } from './late-move';
import { underFloor } from './under-floor';
import { unevenLoop } from './uneven-loop';
import { unfinishedClip } from './unfinished-clip';
import type { FaultView } from './view';

/** How the faults of each check are told. */
const FAULT_VIEWS: { [K in CheckName]: FaultView<FaultOf<K>> } = {
  bareParts,
  darkness,
  noCamera,
  underFloor,
  lateMove,
  unevenLoop,
  unfinishedClip,
};

/** How a fault is told; it takes faults of its own check only. */
export const faultView = ({ check }: Fault): FaultView<object> => FAULT_VIEWS[check] as FaultView<object>;
