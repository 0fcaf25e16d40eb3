import { ALL_FORMATS, AudioSampleSink, BufferSource, Input } from 'mediabunny';
import { PROGRAM_SOUNDS, SCRIPT_MS } from './script';
import { BEEP_HZ, BEEP_MS, CARD_RATE, FLASH_EVERY_FRAMES } from './test-card-code';

export const SAMPLE_RATE = 48_000;

/** A sound is a function of time: `samples` from sample `from` on, one channel, full scale 1. */
export type Sound = (from: number, samples: Float32Array) => void;

const BEEP_EVERY = (FLASH_EVERY_FRAMES * CARD_RATE.den * SAMPLE_RATE) / CARD_RATE.num;
const BEEP_SAMPLES = (BEEP_MS * SAMPLE_RATE) / 1000;

/** A tone that begins on exactly the sample of each flash of the test card. */
export const beep: Sound = (from, samples) => {
  for (let i = 0; i < samples.length; i++) {
    const into = (from + i) % BEEP_EVERY;
    samples[i] = into < BEEP_SAMPLES ? 0.5 * Math.cos((2 * Math.PI * BEEP_HZ * into) / SAMPLE_RATE) : 0;
  }
};

const HIGH_TONE_HZ = 10_000;
/** Without an end, and higher than a sample rate of 16 kHz can carry: what is left of it there is aliasing. */
export const highTone: Sound = (from, samples) => {
  for (let i = 0; i < samples.length; i++)
    samples[i] = 0.5 * Math.sin((2 * Math.PI * HIGH_TONE_HZ * (from + i)) / SAMPLE_RATE);
};

const TONES = {
  tick: [[1900, 0.16, 90]],
  chime: [
    [880, 0.2, 7],
    [1320, 0.12, 6],
  ],
  bell: [
    [1568, 0.22, 9],
    [2093, 0.1, 12],
  ],
} as const;
const LONGEST = SAMPLE_RATE;
const LONGEST_SPEECH_S = 60;

/** Ticks, a chime and a bell at the instants of the desk's script. */
export const programSound: Sound = (from, samples) => {
  samples.fill(0);
  const loop = (SCRIPT_MS * SAMPLE_RATE) / 1000;
  for (const { atMs, kind } of PROGRAM_SOUNDS) {
    const start = (atMs * SAMPLE_RATE) / 1000;
    const round = Math.floor((from + samples.length - start) / loop);
    const begin = start + round * loop;
    if (round < 0 || begin + LONGEST < from) continue;
    for (const [hertz, loudness, fade] of TONES[kind])
      for (let i = Math.max(0, begin - from); i < samples.length; i++) {
        const t = (from + i - begin) / SAMPLE_RATE;
        samples[i] = (samples[i] ?? 0) + loudness * Math.exp(-fade * t) * Math.sin(2 * Math.PI * hertz * t);
      }
  }
};

/** Speech that is still being read plays as far as it has been read. */
export type Voice = {
  sound: Sound;
  /** Resolves when the sound is there up to this sample, or all of it. @throws when the file cannot be read */
  readUntil: (sample: number) => Promise<void>;
};

/** Speech that ships as a file, from the start again when it ends. Decoding all of it takes a second or two: nobody waits for that. */
export function openVoice(): Voice {
  const speech = new Float32Array(LONGEST_SPEECH_S * SAMPLE_RATE);
  let length = 0;
  let waiting: { sample: number; tell: () => void }[] = [];
  const read = async () => {
    // Small enough to be fetched whole: one request that ends, instead of a reader that holds a connection.
    const file = await (await fetch('/practice/voice.ogg')).arrayBuffer();
    const input = new Input({ source: new BufferSource(file), formats: ALL_FORMATS });
    const track = await input.getPrimaryAudioTrack();
    if (!track) throw new Error('The practice voice that ships with the studio has no sound.');
    for await (const sample of new AudioSampleSink(track).samples()) {
      const part = speech.subarray(length, length + sample.numberOfFrames);
      sample.copyTo(part, { planeIndex: 0, format: 'f32-planar' });
      sample.close();
      length += part.length;
      for (const each of waiting) if (each.sample <= length) each.tell();
      waiting = waiting.filter((each) => each.sample > length);
    }
  };
  const whole = read();
  // Told to whoever waits.
  whole.catch(() => undefined);
  return {
    sound: (from, samples) => {
      for (let i = 0; i < samples.length; i++) samples[i] = speech[(from + i) % length] ?? 0;
    },
    readUntil: (sample) => Promise.race([whole, new Promise<void>((tell) => waiting.push({ sample, tell }))]),
  };
}

const FAR = { voice: 0.06, hum: 0.006, noise: 0.003 };
export const HUM_HZ = 50;

/** The same voice through a microphone at the other end of the room: quiet, with the hum of the mains and the noise of a fan. */
export const fromFar =
  (voice: Sound): Sound =>
  (from, samples) => {
    voice(from, samples);
    for (let i = 0; i < samples.length; i++) {
      const at = from + i;
      const w = (2 * Math.PI * HUM_HZ * at) / SAMPLE_RATE;
      const hum = Math.sin(w) + 0.5 * Math.sin(2 * w) + 0.3 * Math.sin(3 * w);
      // A number that looks like chance, and is the same at the same time.
      const chance = Math.imul(Math.imul(at ^ (at >>> 15), 0x2c1b3c6d) ^ (at << 7), 0x297a2d39) / 2 ** 31;
      samples[i] = (samples[i] as number) * FAR.voice + hum * FAR.hum + chance * FAR.noise;
    }
  };
