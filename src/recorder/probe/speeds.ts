import type { FrameRate } from '@/core/base/rational';
import { framesPerSecond } from '@/core/base/rational';
import type { Size } from '@/core/base/sizes';
import { VideoCodec } from '@/core/codec/codecs';
import type { EncoderSpeed } from '@/core/encoding/encoder-speed';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { ARRANGED } from '@/practice/desk/arrangement';
import { viewItems } from '@/practice/desk/views';
import { loadTypeface } from '@/practice/sprites';
import { newStage, show } from '@/practice/stage';
import type { VideoSettings } from '../messages';
import { chooseVideo } from '../worker/video-config';
import { encodeFilm } from './film';

const SOURCE = { width: 1920, height: 1080 };
const PICTURES = 30;
/** An encoder that has not come through a second of film by then is slow, and how slow is known. */
const BUDGET_MS = 1000;
/** Where the script of the practice desk types and scrolls: the work of a lesson. */
const FROM_MS = 9000;

/** A second of the practice desk at work, drawn again for each encoder: drawing is not part of what is measured. */
function drawFilm(): Uint8Array[] {
  const stage = newStage(SOURCE.width, SOURCE.height);
  return Array.from({ length: PICTURES }, (_, n) => {
    show(stage, viewItems('desk', FROM_MS + (n * 1000) / 30, ARRANGED));
    return stage.picture.data.slice();
  });
}

function* framesOf(film: readonly Uint8Array[], rate: FrameRate): Generator<VideoFrame> {
  for (const [n, data] of film.entries())
    yield new VideoFrame(data, {
      format: 'I420',
      codedWidth: SOURCE.width,
      codedHeight: SOURCE.height,
      timestamp: Math.round((n * 1e6) / framesPerSecond(rate)),
      colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
    });
}

/**
 * Measures every encoder that this browser says it has at a picture size, each with the text hint and without, on a second of practice
 * content.
 */
export async function measureSpeeds(picture: Size, rate: FrameRate): Promise<EncoderSpeed[]> {
  await loadTypeface();
  const film = drawFilm();
  const { source: _, ...asked } = PRACTICE_RIG.picture;
  const found: EncoderSpeed[] = [];
  for (const codec of VideoCodec.options) {
    const settings: VideoSettings = {
      ...asked,
      codec,
      aim: 'whole',
      box: picture,
      fit: 'stretch',
      frameRate: rate,
    };
    const choose = (change: Partial<VideoSettings>) =>
      chooseVideo('screen', SOURCE, { ...settings, ...change }).catch(() => null);
    const quantizer = (await choose({ rateControl: 'quantizer' })) !== null;
    const hardware = (await choose({ hardware: 'prefer-hardware' })) !== null;
    let constantOverAverage: number | null = null;
    for (const textHint of ['off', 'on'] as const) {
      const chosen = await choose({ textHint });
      if (!chosen) continue;
      const done = await encodeFilm(chosen.encoder, chosen.options, framesOf(film, rate), BUDGET_MS);
      const held = (done.pictures * 1000) / done.ms;
      if (textHint === 'off' && done.pictures === PICTURES) {
        const constant = await choose({ textHint, rateControl: 'constant' });
        if (constant) {
          const other = await encodeFilm(constant.encoder, constant.options, framesOf(film, rate));
          constantOverAverage = other.bytes / done.bytes;
        }
      }
      found.push({
        codec,
        textHint: textHint === 'on',
        framesPerSecond: held,
        kbps: (done.bytes * 8 * framesPerSecond(rate)) / done.pictures / 1000,
        hardware,
        quantizer,
        constantOverAverage,
      });
    }
  }
  return found;
}
