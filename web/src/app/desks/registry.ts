import { camera } from './camera';
import { finish } from './finish';
import { lights } from './lights';
import { model } from './model';
import { motion } from './motion';
import { reel } from './reel';
import { render } from './render';
import { set } from './set';

/** All desks, in the order of the work. */
export const DESK_ENTRIES = { model, finish, set, lights, camera, motion, render, reel };

export type Desk = keyof typeof DESK_ENTRIES;
export const DESKS = Object.keys(DESK_ENTRIES) as Desk[];
