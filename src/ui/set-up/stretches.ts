import type { Rig } from '@/core/rig/rig';

/** The stretches of the flow: what can be changed, from the display to the disk. */
export const STRETCHES = [
  'source',
  'area',
  'picture',
  'encode',
  'file',
  'camera',
  'voice',
  'app-sound',
  'rig',
] as const;
export type Stretch = (typeof STRETCHES)[number];
export const STRETCH_NAMES: Record<Stretch, string> = {
  source: 'Source',
  area: 'Capture area',
  picture: 'Picture',
  encode: 'Encode',
  file: 'File',
  camera: 'Camera',
  voice: 'Voice',
  'app-sound': 'App sound',
  rig: 'Rig',
};

/** Whether a stretch carries anything with this rig. */
export const isDry = (rig: Rig, stretch: Stretch): boolean =>
  (stretch === 'camera' && !rig.camera) ||
  (stretch === 'voice' && !rig.voice) ||
  (stretch === 'app-sound' && !rig.appSound);
