import type { Rig } from '@/core/rig';

/** The stretches of the flow: what can be changed, from the display to the disk. */
export const STRETCHES = ['aim', 'picture', 'encode', 'file', 'camera', 'voice', 'app-sound', 'rig'] as const;
export type Stretch = (typeof STRETCHES)[number];
export const STRETCH_NAMES: Record<Stretch, string> = {
  aim: 'Aim',
  picture: 'Picture',
  encode: 'Encode',
  file: 'File',
  camera: 'Camera',
  voice: 'Voice',
  'app-sound': 'App sound',
  rig: 'Rig',
};

/** The stretch on which a choice of the rig stands. */
export function stretchOf(about: string): Stretch {
  if (about === 'camera' || about === 'voice' || about === 'app-sound') return about;
  return about === 'storage' ? 'file' : 'picture';
}

/** Whether a stretch carries anything with this rig. */
export const isDry = (rig: Rig, stretch: Stretch): boolean =>
  (stretch === 'camera' && !rig.camera) ||
  (stretch === 'voice' && !rig.voice) ||
  (stretch === 'app-sound' && !rig.appSound);
