import * as THREE from 'three';
import type { FrameState } from '@zippy/core/motion';
import { otherWork } from '../store/other-work';
import type { PartMeshes } from '../meshes/part-meshes';
import { lightTarget, type LiveScene, type LiveSet } from './live/live-scene';
import { aimCamera } from './sketch-set';

/** Pixels that are drawn across and down for each of the still, so that its edges are smooth; fewer where a program draws them. */
const FINER = { card: 4, software: 2 };

/** Draws small pictures of frames with a scene of its own, a portion of the parts at a time, beside what the sketch shows. */
export class StillDrawer {
  private readonly camera = new THREE.PerspectiveCamera(30, 1, 5, 60000);
  private newest = 0;
  private readonly finer: number;

  constructor(
    private readonly renderer: THREE.WebGLRenderer,
    private readonly live: LiveScene,
    private readonly parts: PartMeshes,
    software: boolean,
  ) {
    this.finer = software ? FINER.software : FINER.card;
    live.rig.uniforms.quick.value = software;
    live.scene.add(parts.group);
  }

  /**
   * A frame through its own camera.
   * @param height pixels
   * @returns a data URL; null where there is no camera, or once another still is asked for
   */
  async draw(frame: FrameState, set: LiveSet, aspect: number, height: number): Promise<string | null> {
    const own = ++this.newest;
    if (!frame.camera) return null;
    const width = Math.round(height * aspect);
    this.camera.aspect = aspect;
    aimCamera(this.camera, frame.camera, aspect, 1);
    const alone = { selectedNodes: new Set<string>(), isolated: null, lit: null, apart: null };
    while (this.parts.show({ frame, pictures: set.pictures, aspect, ...alone })) {
      await otherWork();
      if (own !== this.newest) return null;
    }
    const show = () => this.live.show(frame, set, { across: 1, down: 1, aspect }, this.parts.ball().center, true);
    show();
    await this.live.plateThere;
    if (own !== this.newest) return null;
    const target = lightTarget(width * this.finer, height * this.finer, 0);
    const print = new THREE.WebGLRenderTarget(target.width, target.height);
    try {
      show();
      this.live.backdrop.aim(this.camera);
      this.live.backdrop.mesh.visible = true;
      this.drawOnto(target, [], true);
      // What follows is drawn over that.
      this.live.backdrop.mesh.visible = false;
      this.live.floor.mesh.visible = false;
      for (const portion of this.parts.portions()) {
        await otherWork();
        if (own !== this.newest) return null;
        this.drawOnto(target, portion, false);
      }
      this.live.developer.develop(this.renderer, target, null, 0, print);
      this.renderer.setRenderTarget(null);
      const pixels = new Uint8Array(target.width * target.height * 4);
      // Waits for the graphics card without holding up the page.
      await this.renderer.readRenderTargetPixelsAsync(print, 0, 0, target.width, target.height, pixels);
      return pictureUrl(pixels, width, height, this.finer);
    } finally {
      target.dispose();
      print.dispose();
    }
  }

  private drawOnto(target: THREE.WebGLRenderTarget, portion: readonly THREE.Mesh[], first: boolean): void {
    this.parts.only(portion);
    this.renderer.setRenderTarget(target);
    if (first) this.renderer.clear();
    this.renderer.render(this.live.scene, this.camera);
    this.renderer.setRenderTarget(null);
  }
}

/** Pixels `finer` times as many across and down, the last row first as graphics memory gives them, as a small picture. */
function pictureUrl(pixels: Uint8Array, width: number, height: number, finer: number): string {
  const canvas = document.createElement('canvas');
  Object.assign(canvas, { width, height });
  // In the page's own memory: from the graphics card, the small picture would be waited for with all that is drawn before it.
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  const image = context.createImageData(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width * 4; x++) {
      const [column, channel] = [(x >> 2) * finer, x & 3];
      let sum = 0;
      for (let row = (height - 1 - y) * finer; row < (height - y) * finer; row++)
        for (let k = 0; k < finer; k++) sum += pixels[(row * width * finer + column + k) * 4 + channel]!;
      image.data[y * width * 4 + x] = sum / finer ** 2;
    }
  }
  context.putImageData(image, 0, 0);
  return canvas.toDataURL('image/webp', 0.8);
}
