import { add, multiplyQuaternions, rotateVector, subtract, type Quaternion, type Vector } from '../../geometry';
import { paced } from './paces';
import { movePhase } from './phase';
import type { Pose, Timed } from './kind';

/** Adds a turn to what a thing turns by already. */
export function spin(pose: Pose, turn: Quaternion): void {
  pose.spin = multiplyQuaternions(turn, pose.spin);
}

/** Carries a thing round a point. */
export function swing(pose: Pose, center: Vector, turn: Quaternion): void {
  const place = add(pose.position, pose.pivot);
  pose.position = subtract(add(center, rotateVector(subtract(place, center), turn)), pose.pivot);
}

/** How many runs a move has turned through: each goes on where the one before ended, unless it came back. */
export function turnedRuns(move: Timed, cyclic: boolean, frame: number): number {
  const { runs, within } = movePhase(move, cyclic, frame);
  return paced(move.pace, within) + (move.mirrored ? 0 : runs);
}
