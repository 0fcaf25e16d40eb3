/** Every finder, in the order in which findings of equal weight are told. A new one is a file of its own and a line here. */

export { appSoundNotShared } from './app-sound-not-shared';
export { bitrateOffMarks } from './bitrate-off-marks';
export { browserLacks } from './browser-lacks';
export { cameraOverChanges } from './camera-over-changes';
export { cameraSlow } from './camera-slow';
export { cameraTooLarge } from './camera-too-large';
export { deviceMissing } from './device-missing';
export { keyframesFar } from './keyframes-far';
export { lettersTooSmall } from './letters-too-small';
export { levelBroken } from './level-broken';
export { noVoice } from './no-voice';
export { oddSize } from './odd-size';
export { outsideWindow } from './outside-window';
export { ownWindow } from './own-window';
export { permissionRefused } from './permission-refused';
export { regionMoved } from './region-moved';
export { softened } from './softened';
export { soundOffSpeed } from './sound-off-speed';
export { sourcesNotReady } from './sources-not-ready';
export { stretched } from './stretched';
export { tooLittleRoom } from './too-little-room';
export { tooSlow } from './too-slow';
export { upscaling } from './upscaling';
export { wrongSurface } from './wrong-surface';
