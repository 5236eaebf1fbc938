import type { ProjectDocument } from '../document';
import { bareParts } from './bareParts';
import type { Surrounding } from './check';
import { darkness } from './darkness';
import { lateMove } from './lateMove';
import { noCamera } from './noCamera';
import { underFloor } from './underFloor';
import { unevenLoop } from './unevenLoop';
import { unfinishedClip } from './unfinishedClip';

/** Everything that is looked for. */
export const CHECKS = { bareParts, darkness, noCamera, underFloor, lateMove, unevenLoop, unfinishedClip };

export type CheckName = keyof typeof CHECKS;
export type FaultOf<K extends CheckName> = ReturnType<(typeof CHECKS)[K]>[number];
export type Fault = { [K in CheckName]: { check: K; fault: FaultOf<K> } }[CheckName];

/** All that will spoil a film. */
export const findFaults = (document: ProjectDocument, surrounding: Surrounding): Fault[] =>
  (Object.keys(CHECKS) as CheckName[]).flatMap((check) =>
    CHECKS[check](document, surrounding).map((fault) => ({ check, fault }) as Fault),
  );

export {
  fitShot,
  surveyShot,
  type FitBy,
  type ShotFault,
  type ShotFaultKind,
  type Shapes,
  type Surveyed,
} from './survey';
