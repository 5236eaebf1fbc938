import * as THREE from 'three';
import type { Look, PictureFile } from '@zippy/core/document';
import type { FrameState } from '@zippy/core/motion';
import { blobUrl } from '../../api/urls';
import { SketchFloor } from '../sketch-set';
import type { PaintedSurroundings } from '../surroundings.worker';
import { Backdrop } from './backdrop';
import { Developer } from './developer';
import { LightRig, levelsTexture, type ShiningLamp } from './light-rig';

/** What a live picture shows besides the parts of a frame. */
export interface LiveSet {
  look: Look;
  /** The surroundings as they have been painted; null until they are. */
  painted: PaintedSurroundings | null;
  /** The picture all around that is seen behind, if there is one. */
  paintedBehind: PaintedSurroundings | null;
  /** Files of pictures, as the document names them. */
  pictures: Readonly<Record<string, PictureFile>>;
}

/** A set in its own light: floor, lamps, surroundings, what is seen behind, and how all of it is developed. */
export class LiveScene {
  readonly scene = new THREE.Scene();
  readonly rig = new LightRig();
  readonly developer = new Developer();
  readonly floor = new SketchFloor(this.rig);
  readonly backdrop = new Backdrop(this.rig);
  private behind: { from: PaintedSurroundings; texture: THREE.DataArrayTexture } | null = null;
  private plate: { hash: string; texture: THREE.Texture } | null = null;
  /** The plate that is on its way. */
  private coming: string | null = null;
  /** Done when no plate is on its way; whoever draws once only waits for it. */
  plateThere: Promise<void> = Promise.resolve();

  /** @param arrived is told that a picture has come */
  constructor(private readonly arrived: () => void) {
    this.scene.add(this.backdrop.mesh, this.floor.mesh);
  }

  /** @param canvas how wide it is against the film's frame, across and down @param center of the product */
  show(
    frame: FrameState,
    { look, painted, paintedBehind, pictures }: LiveSet,
    canvas: { across: number; down: number; aspect: number },
    center: THREE.Vector3,
    floor: boolean,
  ): ShiningLamp[] {
    this.rig.take(painted);
    const lamps = this.rig.show(frame, center);
    this.floor.show(frame.set, floor);
    const { behind } = frame.set;
    const plate = behind.kind === 'plate' && behind.plate ? this.plateOf(pictures[behind.plate]?.hash) : null;
    this.backdrop.show(frame, this.aroundOf(paintedBehind), plate, canvas);
    this.developer.show(look, null);
    return lamps;
  }

  private aroundOf(from: PaintedSurroundings | null): THREE.DataArrayTexture | null {
    if (from && this.behind?.from !== from) {
      this.behind?.texture.dispose();
      this.behind = { from, texture: levelsTexture(from) };
    }
    return from && this.behind!.texture;
  }

  private plateOf(hash: string | undefined): THREE.Texture | null {
    if (!hash) return null;
    // What plays goes on showing the picture before until the next one is there, and asks for one at a time.
    if (this.plate?.hash !== hash && this.coming === null) {
      this.coming = hash;
      let told!: () => void;
      this.plateThere = new Promise((resolve) => (told = resolve));
      const come = (texture: THREE.Texture | null) => {
        this.coming = null;
        told();
        if (!texture) return;
        this.plate?.texture.dispose();
        texture.colorSpace = THREE.SRGBColorSpace;
        texture.flipY = false;
        this.plate = { hash, texture };
        this.arrived();
      };
      new THREE.TextureLoader().load(blobUrl(hash), come, undefined, () => come(null));
    }
    return this.plate?.texture ?? null;
  }
}

/** Where linear light is drawn before it is developed. @param samples of each pixel, 0 for one */
export function lightTarget(width: number, height: number, samples: number): THREE.WebGLRenderTarget {
  const target = new THREE.WebGLRenderTarget(width, height, { type: THREE.HalfFloatType, samples });
  target.depthTexture = new THREE.DepthTexture(width, height, THREE.UnsignedIntType);
  return target;
}
