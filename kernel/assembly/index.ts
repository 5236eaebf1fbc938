// Everything the kernel offers to TypeScript. Addresses are bytes in the shared memory.

import { hideParts, hitInstance, hitT, hitTriangle, setTraversalScratch, trace } from './traverse';
import { setEnergyScratch, useEnergyTables } from './energy';
import { evaluateFinish, scatterB, scatterG, scatterPdf, scatterR } from './finish/evaluate';
import { openFinish } from './finish/opened';
import { samplePdf, sampleFinish, sampleX, sampleY, sampleZ, weightB, weightG, weightR } from './finish/sample';
import { setFilmScratch } from './film';
import { SCRATCH_DRAWN, SCRATCH_FINISH, SCRATCH_GROUPS, SCRATCH_KNOWN, SCRATCH_MEDIA, SCRATCH_POINTS } from './layout';
import { openShutter, setMotionWorker } from './motion';
import { setGroupRoom } from './path/outputs';
import { setMediaRoom } from './media';
import { setPointRoom } from './point';
import { draw2, drawX, drawY, setSamplerScratch, startSample } from './sampler';
import { setMapRoom } from './map/stack';

export { buildMeshTree, buildInstanceTree, treeScratchSize, treeBound } from './tree';
export { fillEnergyTables } from './energy';
export { prepareSky } from './sky';
export { renderTile } from './film';
export { denoise, smoothAlbedo } from './denoise';

/** Gives worker `number` of a memory its private scratch of SCRATCH_SIZE bytes. */
export function setScratch(at: usize, number: u32): void {
  setTraversalScratch(at);
  setMotionWorker(number);
  setGroupRoom(at + SCRATCH_GROUPS);
  setMediaRoom(at + SCRATCH_MEDIA);
  setPointRoom(at + SCRATCH_POINTS);
  setFilmScratch(at + SCRATCH_GROUPS);
  setMapRoom(at + SCRATCH_FINISH);
  setEnergyScratch(at + SCRATCH_KNOWN);
  setSamplerScratch(at + SCRATCH_DRAWN);
}

/**
 * Traces `count` rays of eight floats (origin, tMin, direction, tMax) and writes 16 bytes each: t (or -1), instance, triangle, 0.
 * With `any` set, t is 1 for a ray that meets anything.
 */
export function traceRays(scene: usize, rays: usize, hits: usize, count: u32, any: bool): void {
  for (let k: u32 = 0; k < count; k++) {
    const ray = rays + <usize>k * 32;
    const out = hits + <usize>k * 16;
    hideParts(0);
    const hit = trace(
      scene,
      load<f32>(ray),
      load<f32>(ray, 4),
      load<f32>(ray, 8),
      load<f32>(ray, 16),
      load<f32>(ray, 20),
      load<f32>(ray, 24),
      load<f32>(ray, 12),
      load<f32>(ray, 28),
      any,
    );
    store<f32>(out, hit ? (any ? <f32>1 : hitT) : <f32>-1);
    store<i32>(out, hitInstance, 4);
    store<u32>(out, hitTriangle, 8);
  }
}

/** Evaluates a finish: `io` holds wo xyz, wi xyz and gets function × cosine rgb and density from byte 24 on. */
export function probeEvaluate(energy: usize, finish: usize, io: usize, inside: bool): void {
  useEnergyTables(energy);
  openFinish(finish, load<f32>(io), load<f32>(io, 4), load<f32>(io, 8), inside, 1, 0);
  evaluateFinish(load<f32>(io, 12), load<f32>(io, 16), load<f32>(io, 20));
  store<f32>(io, scatterR, 24);
  store<f32>(io, scatterG, 28);
  store<f32>(io, scatterB, 32);
  store<f32>(io, scatterPdf, 36);
}

/** Samples a finish `count` times for the wo at `io`; writes direction xyz, density and weight rgb, ok as eight floats each. */
export function probeSample(
  energy: usize,
  finish: usize,
  io: usize,
  out: usize,
  count: u32,
  seed: u32,
  inside: bool,
): void {
  useEnergyTables(energy);
  openShutter(0);
  for (let k: u32 = 0; k < count; k++) {
    openFinish(finish, load<f32>(io), load<f32>(io, 4), load<f32>(io, 8), inside, 1, 0);
    startSample(0, 0, seed, k, 24);
    draw2();
    const choice = drawX;
    draw2();
    const ok = sampleFinish(choice, drawX, drawY);
    const at = out + <usize>k * 32;
    store<f32>(at, sampleX);
    store<f32>(at, sampleY, 4);
    store<f32>(at, sampleZ, 8);
    store<f32>(at, samplePdf, 12);
    store<f32>(at, ok ? weightR : 0, 16);
    store<f32>(at, ok ? weightG : 0, 20);
    store<f32>(at, ok ? weightB : 0, 24);
    store<f32>(at, ok ? 1 : 0, 28);
  }
}
