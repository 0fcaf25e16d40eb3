import type { Size } from '@/core/base/sizes';
import { LEAST_CAMERA_FPS } from '@/core/findings/camera-slow';
import { SILENT_DB } from '@/core/findings/no-voice';
import type { SourceState } from '@/core/findings/preflight';
import type { Figures } from './messages';

/** A sound that was quiet for so long is silent, and not just a pause between two sentences. */
const SILENT_MS = 6000;
/** A camera that gives too little for so long is slow, and not just starting. */
const SLOW_MS = 3000;

type Seen = Pick<SourceState, 'loudestDb' | 'measuredFps' | 'givenFps'>;

/** Watches what sources really give. A silence and a slow camera are told when they last. */
export function watchSource() {
  let quietSince: number | null = null;
  let loudestDb = Number.NEGATIVE_INFINITY;
  let slowSince: number | null = null;
  return {
    sound: (levelDb: number, nowMs: number): Seen => {
      if (levelDb > SILENT_DB) {
        quietSince = null;
        loudestDb = Number.NEGATIVE_INFINITY;
        return { loudestDb: undefined };
      }
      quietSince ??= nowMs;
      loudestDb = Math.max(loudestDb, levelDb);
      return {
        loudestDb: nowMs - quietSince >= SILENT_MS ? Math.max(-120, Math.round(loudestDb)) : undefined,
      };
    },
    camera: ({ arrivedFps }: NonNullable<Figures['video']['camera']>, asked: Size, nowMs: number): Seen => {
      const givenFps = Math.round(arrivedFps);
      if (arrivedFps >= LEAST_CAMERA_FPS) {
        slowSince = null;
        return { measuredFps: undefined, givenFps };
      }
      slowSince ??= nowMs;
      return {
        givenFps,
        measuredFps: nowMs - slowSince >= SLOW_MS ? { fps: Math.round(arrivedFps), asked } : undefined,
      };
    },
  };
}
