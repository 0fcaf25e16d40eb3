import { appSoundClose } from './app-sound-close';
import { appSoundNotShared } from './app-sound-not-shared';
import { bitrateOffMarks } from './bitrate-off-marks';
import { browserLacks } from './browser-lacks';
import { cameraOverChanges } from './camera-over-changes';
import { cameraSlow } from './camera-slow';
import { cameraTooLarge } from './camera-too-large';
import { containerRefuses } from './container-refuses';
import { deviceMissing } from './device-missing';
import { finalStore } from './final-store';
import type { Finder } from './finding';
import { hum } from './hum';
import { keyframesFar } from './keyframes-far';
import { levelBroken } from './level-broken';
import { moreThanSource } from './more-than-source';
import { noVoice } from './no-voice';
import { oddSize } from './odd-size';
import { oneMicrophone } from './one-microphone';
import { outsideWindow } from './outside-window';
import { ownWindow } from './own-window';
import { permissionRefused } from './permission-refused';
import { rateLow } from './rate-low';
import { regionMoved } from './region-moved';
import { rehearsed } from './rehearsed';
import { roomNoise } from './room-noise';
import { softened } from './softened';
import { soundOffSpeed } from './sound-off-speed';
import { sourcesNotReady } from './sources-not-ready';
import { stretched } from './stretched';
import { textTooSmall } from './text-too-small';
import { tooLittleRoom } from './too-little-room';
import { tooSlow } from './too-slow';
import { unsafeName } from './unsafe-name';
import { upscaling } from './upscaling';
import { voiceClips } from './voice-clips';
import { wrongMicrophone } from './wrong-microphone';
import { wrongSurface } from './wrong-surface';

/**
 * Every finder, in the order in which findings of equal weight are told: first what keeps anything from being recorded, then what loses
 * a part of it, then what spoils how it looks and sounds, last what is good to know. A new one is a file of its own and a line here.
 */
export const FINDERS: readonly Finder[] = [
  // Nothing can be recorded, or not for long.
  ...[browserLacks, sourcesNotReady, levelBroken, tooLittleRoom],
  // Something is not there, or not what was chosen.
  ...[permissionRefused, deviceMissing, wrongSurface, appSoundNotShared, oneMicrophone, finalStore],
  ...[regionMoved, containerRefuses],
  // Frames or words will be lost.
  ...[rehearsed, tooSlow, cameraSlow, noVoice, wrongMicrophone, voiceClips, soundOffSpeed],
  // It will look or sound worse than it could.
  ...[softened, upscaling, stretched, oddSize, textTooSmall, bitrateOffMarks, keyframesFar],
  ...[cameraOverChanges, appSoundClose],
  // Good to know.
  ...[outsideWindow, ownWindow, moreThanSource, cameraTooLarge, rateLow, hum, roomNoise, unsafeName],
];
