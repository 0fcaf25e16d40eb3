import { bytesText, clockText } from '../base/figures';
import { type FrameRate, framesPerSecond, rateText } from '../base/rational';
import { sizeText } from '../base/sizes';
import { CODEC_NAMES, codecName } from '../codec/codecs';
import {
  CONTAINER_NAMES,
  type Container,
  type Destination,
  SOUND_CODEC_NAMES,
  type SoundCodec,
} from './destination';

/** What a file on disk really is. Everything is read from the file, nothing from what was asked of an encoder. */
export type MeasuredVideo = {
  /** As the probe names it: `h264`, `av1`, `mpeg4` … */
  codec: string;
  profile: string | null;
  /** Ten times the level's number, of H.264 only. */
  level: number | null;
  width: number;
  height: number;
  pixelFormat: string;
  squarePixels: boolean;
  progressive: boolean;
  /** From the times of all pictures, not from what the header promises. */
  constantRate: boolean;
  rate: FrameRate;
  frames: number;
  longestKeyframeGapS: number;
};
export type MeasuredSound = {
  codec: string;
  channels: number;
  sampleRate: number;
  /** ITU-R BS.1770-4 programme loudness; null for silence. */
  lufs: number | null;
  truePeakDbtp: number | null;
};
export type MeasuredFile = {
  container: Container | 'other';
  containerName: string;
  bytes: number;
  durationUs: number;
  /** Whether the index stands before the data; null where a container has no such order. */
  fastStart: boolean | null;
  video: MeasuredVideo | null;
  sound: MeasuredSound | null;
  /** Streams of each kind; players show one of each. */
  videoStreams: number;
  soundStreams: number;
};

export type RuleResult = {
  rule: string;
  name: string;
  measured: string;
  allowed: string;
  met: boolean;
  /** What to do when it is not met. */
  remedy: string;
};

const result = (
  rule: string,
  name: string,
  measured: string,
  allowed: string,
  met: boolean,
  remedy: string,
): RuleResult => ({ rule, name, measured, allowed, met, remedy });

/** How probes name what we ask of a sound codec. */
const isSound = (codec: string, wanted: SoundCodec): boolean =>
  wanted === 'pcm' ? codec.startsWith('pcm_s24') || codec.startsWith('pcm_s16') : codec === wanted;
/** Sound codecs and pixel formats as the interface spells them; what is not known here stays as the probe names it. */
const soundName = (codec: string): string => {
  const [, bits] = /^pcm_s(16|24|32)/.exec(codec) ?? [];
  return bits ? `PCM, ${bits} bit` : codec === 'aac' || codec === 'opus' ? SOUND_CODEC_NAMES[codec] : codec;
};
const pixelName = (format: string): string => {
  const [, sampling, bits = '8'] = /^yuvj?(420|422|444)p(\d+)?(?:le|be)?$/.exec(format) ?? [];
  return sampling ? `${sampling.split('').join(':')}, ${bits} bit` : format;
};
const channelsText = (channels: number): string =>
  channels === 1 ? 'mono' : channels === 2 ? 'stereo' : String(channels);
const sampleRateText = (hz: number): string => `${hz / 1000} kHz`;

/** A file's last picture or block of sound may end a little later than the cut. */
const SLACK_US = 100_000;
const RATE_SLACK = 1.001;
const AGAIN = 'Make it again from the lesson.';

/** The rules about the picture alone. They also say whether recorded pictures may be copied. */
export function pictureRules({ video: asked }: Destination, video: MeasuredVideo): RuleResult[] {
  const rules = [
    result(
      'video-codec',
      'Video codec',
      codecName(video.codec),
      asked.codecs.map((codec) => CODEC_NAMES[codec]).join(' or '),
      asked.codecs.some((codec) => codec === video.codec),
      `Encode the picture as ${CODEC_NAMES[asked.codecs[0] ?? 'h264']}.`,
    ),
  ];
  if (asked.h264 && video.codec === 'h264') {
    const { profiles, maxLevel } = asked.h264;
    rules.push(
      result(
        'profile',
        'Profile',
        video.profile ?? 'unknown',
        profiles.join(' or '),
        profiles.some((profile) => profile === video.profile),
        `Encode with the ${profiles.at(-1)} profile.`,
      ),
      result(
        'level',
        'Level',
        video.level === null ? 'unknown' : (video.level / 10).toFixed(1),
        `at most ${(maxLevel / 10).toFixed(1)}`,
        video.level !== null && video.level <= maxLevel,
        'Lower the picture size or the frame rate.',
      ),
    );
  }
  if (asked.box)
    rules.push(
      result(
        'size',
        'Picture size',
        sizeText(video),
        `at most ${sizeText(asked.box)}`,
        video.width <= asked.box.width && video.height <= asked.box.height,
        `Scale it down to fit ${sizeText(asked.box)}.`,
      ),
    );
  if (asked.shape) {
    const { width, height } = asked.shape;
    // A side may be off by the pixel that makes it even.
    const met = Math.abs(video.width * height - video.height * width) <= 2 * Math.max(width, height);
    const ratio = `${(video.width / video.height).toFixed(2)}:1`;
    rules.push(
      result(
        'shape',
        'Aspect ratio',
        met ? `${width}:${height}` : ratio,
        `${width}:${height}`,
        met,
        'Letterbox it to this aspect ratio.',
      ),
    );
  }
  const { max, constant } = asked.frameRate;
  if (max)
    rules.push(
      result(
        'frame-rate',
        'Frame rate',
        `${rateText(video.rate)} fps`,
        `at most ${rateText(max)} fps`,
        framesPerSecond(video.rate) <= framesPerSecond(max) * RATE_SLACK,
        `Lower the frame rate to ${rateText(max)} fps.`,
      ),
    );
  if (constant)
    rules.push(
      result(
        'constant-rate',
        'Frame rate mode',
        video.constantRate ? 'constant' : 'variable',
        'constant',
        video.constantRate,
        'Encode it at a constant frame rate.',
      ),
    );
  if (asked.keyframeEveryS !== null)
    rules.push(
      result(
        'keyframes',
        'Longest keyframe interval',
        `${video.longestKeyframeGapS.toFixed(1)} s`,
        `at most ${asked.keyframeEveryS.toFixed(1)} s`,
        video.longestKeyframeGapS <= asked.keyframeEveryS + 0.05,
        `Encode it with a keyframe every ${asked.keyframeEveryS} s.`,
      ),
    );
  if (asked.pixelFormat)
    rules.push(
      result(
        'pixel-format',
        'Pixel format',
        pixelName(video.pixelFormat),
        pixelName(asked.pixelFormat),
        video.pixelFormat === asked.pixelFormat,
        `Encode it as ${pixelName(asked.pixelFormat)}, limited range.`,
      ),
    );
  if (asked.squarePixels)
    rules.push(
      result(
        'square-pixels',
        'Square pixels',
        video.squarePixels ? 'square' : 'stretched',
        'square',
        video.squarePixels,
        'Scale it to square pixels.',
      ),
    );
  rules.push(
    result(
      'progressive',
      'Progressive scan',
      video.progressive ? 'progressive' : 'interlaced',
      'progressive',
      video.progressive,
      'Deinterlace it.',
    ),
  );
  return rules;
}

function soundRules({ sound: asked }: Destination, sound: MeasuredSound): RuleResult[] {
  const rules = [
    result(
      'sound-codec',
      'Sound codec',
      soundName(sound.codec),
      SOUND_CODEC_NAMES[asked.codec],
      isSound(sound.codec, asked.codec),
      `Encode the sound as ${SOUND_CODEC_NAMES[asked.codec]}.`,
    ),
    result(
      'channels',
      'Channels',
      channelsText(sound.channels),
      asked.channels === 2 ? 'stereo or mono' : 'mono',
      sound.channels >= 1 && sound.channels <= asked.channels,
      asked.channels === 2 ? 'Mix it down to two channels.' : 'Mix it down to one channel.',
    ),
    result(
      'sample-rate',
      'Sample rate',
      sampleRateText(sound.sampleRate),
      sampleRateText(asked.sampleRate),
      sound.sampleRate === asked.sampleRate,
      `Resample it to ${sampleRateText(asked.sampleRate)}.`,
    ),
  ];
  const { loudness } = asked;
  // Silence has no loudness to be even in.
  if (!loudness || sound.lufs === null) return rules;
  const { lufs, toleranceLu, truePeakDbtp } = loudness;
  const peak = sound.truePeakDbtp;
  rules.push(
    result(
      'loudness',
      'Loudness',
      `${sound.lufs.toFixed(1)} LUFS`,
      `${lufs} ± ${toleranceLu} LUFS`,
      Math.abs(sound.lufs - lufs) <= toleranceLu + 1e-9,
      `Make it ${Math.abs(lufs - sound.lufs).toFixed(1)} dB ${sound.lufs < lufs ? 'louder' : 'quieter'}.`,
    ),
    result(
      'true-peak',
      'True peak',
      peak === null ? 'unknown' : `${peak.toFixed(1)} dBTP`,
      `at most ${truePeakDbtp} dBTP`,
      peak !== null && peak <= truePeakDbtp + 1e-9,
      'Limit the peaks before encoding.',
    ),
  );
  return rules;
}

/**
 * Whether a file meets the rules of a place: every rule with what was measured, what is allowed and what to do. A part that the file
 * should not have, one track of several for an editor, is not asked for.
 * @param parts what the file is for; `both` for anything that is watched
 */
export function checkRules(
  destination: Destination,
  file: MeasuredFile,
  parts: 'both' | 'picture' | 'sound' = 'both',
): RuleResult[] {
  const rules: RuleResult[] = [];
  const { container, maxBytes, maxDurationS, fastStart } = destination;
  // A sound track alone has a container of its own.
  if (parts !== 'sound')
    rules.push(
      result(
        'container',
        'Container',
        file.containerName,
        CONTAINER_NAMES[container],
        file.container === container,
        `Put it into ${CONTAINER_NAMES[container]} without encoding it again.`,
      ),
    );
  if (parts !== 'sound') {
    if (file.video) rules.push(...pictureRules(destination, file.video));
    if (file.videoStreams !== 1)
      rules.push(result('one-picture', 'Video tracks', `${file.videoStreams}`, '1', false, AGAIN));
  }
  if (parts !== 'picture') {
    if (file.sound) rules.push(...soundRules(destination, file.sound));
    // A lesson may have been recorded without sound; a sound track may not be without.
    if (file.soundStreams > 1 || (parts === 'sound' && file.soundStreams === 0))
      rules.push(
        result(
          'one-sound',
          'Sound tracks',
          `${file.soundStreams}`,
          '1',
          false,
          file.soundStreams > 1 ? 'Mix the sounds into one track.' : AGAIN,
        ),
      );
  }
  if (fastStart)
    rules.push(
      result(
        'fast-start',
        'Plays while it loads',
        file.fastStart ? 'index first' : 'index last',
        'index first',
        file.fastStart === true,
        'Write it again with the index before the data; nothing is encoded.',
      ),
    );
  if (maxBytes !== null)
    rules.push(
      result(
        'bytes',
        'Size',
        bytesText(file.bytes),
        `at most ${bytesText(maxBytes)}`,
        file.bytes <= maxBytes,
        'Shorten it, or choose a smaller picture.',
      ),
    );
  if (maxDurationS !== null)
    rules.push(
      result(
        'length',
        'Length',
        clockText(file.durationUs),
        `at most ${clockText(maxDurationS * 1e6)}`,
        file.durationUs <= maxDurationS * 1e6 + SLACK_US,
        'Shorten it, or split it into two.',
      ),
    );
  return rules;
}
