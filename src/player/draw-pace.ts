import { type FrameRate, framesPerSecond } from '@/core/base/rational';

/**
 * What a picture stays on the canvas at least while it plays, in frames of its take. Screen and camera come at times of
 * their own, and a zoom moves with every frame of the display: without a graphics card each drawing of 1080p takes most of
 * such a frame. Less than a whole one, because the display's frames are counted from another moment. (A display of 59.94 Hz
 * leaves out one picture of a thousand at 30 fps.)
 */
const STAYS_FRAMES = 0.75;

/**
 * Whether the next picture may be drawn while it plays.
 * @param drawnUs place of the picture that was drawn last; −∞ when another piece begins
 * @param rate of the take
 */
export const mayDraw = (drawnUs: number, nowUs: number, rate: FrameRate): boolean =>
  nowUs - drawnUs >= (STAYS_FRAMES * 1e6) / framesPerSecond(rate);
