import type { Camera, Finish, Light, ProjectDocument, SceneNode, StudioSet } from '../document';
import type { Quaternion, Vector } from '../geometry';

/** A copy of a node before it is laid out. */
export interface CopyPose {
  position: Vector;
  spin: Quaternion;
}

/** Where a shot is: seconds since its first frame, and the share of it that has passed. */
export interface Moment {
  seconds: number;
  share: number;
}

/** The way of sharpness or aim between two points of nodes; null stands for what the thing has itself. */
interface Pull {
  from: { node: string; point: Vector } | null;
  to: { node: string; point: Vector } | null;
  /** 0 to 1. */
  share: number;
}

/** The document as one moment shows it: every property at its value, and what moves add to places. */
export interface SceneState {
  nodes: Record<string, SceneNode>;
  finishes: Record<string, Finish>;
  lights: Record<string, Light>;
  cameras: Record<string, Camera>;
  set: StudioSet;
  /** Turns that moves add to nodes, in the space of the node's parent. */
  spins: Map<string, Quaternion>;
  /** What cameras are sharp at on the way from one thing to another, by their ids. */
  pulls: Map<string, Pull>;
  /** What cameras and lights are aimed at on the way from one thing to another. */
  aims: Map<string, Pull>;
  /** How copies of a node stand that moves reach one after the other, by the node's id; of others they stand as it does. */
  copyPoses: Map<string, CopyPose[]>;
  moment: Moment;
}

/** The document at rest, in no shot. Its records are the state's own, what they hold is the document's. */
export const restingState = ({ nodes, finishes, lights, cameras, set }: ProjectDocument): SceneState => ({
  nodes: { ...nodes },
  finishes: { ...finishes },
  lights: { ...lights },
  cameras: { ...cameras },
  set,
  spins: new Map(),
  pulls: new Map(),
  aims: new Map(),
  copyPoses: new Map(),
  moment: { seconds: 0, share: 0 },
});
