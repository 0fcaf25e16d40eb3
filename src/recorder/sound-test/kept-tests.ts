import { SoundTest } from '@/core/recording/sound-test';
import { DeviceSource } from '@/core/rig/rig';

/** Tests of microphones, kept in this browser by device: figures beside both sounds. */
const FOLDER = 'sound-tests';
const KEY = 'sound-tests';

export type KeptSounds = {
  raw: { samples: Float32Array<ArrayBuffer>; sampleRate: number };
  kept: { samples: Float32Array<ArrayBuffer>; sampleRate: number };
};

export const deviceKey = ({ from, id }: DeviceSource): string => `${from}:${id}`;

const figures = (): Record<string, unknown> => {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}');
  } catch {
    return {};
  }
};

/** What the last test of a device found; undefined when there was none. */
export function keptTest(source: DeviceSource): SoundTest | undefined {
  const test = SoundTest.safeParse(figures()[deviceKey(source)]).data;
  if (!test) return undefined;
  const others = test.others.flatMap((other) => {
    const known = DeviceSource.safeParse(other.source).data;
    return known ? [{ ...other, source: known }] : [];
  });
  return { ...test, others };
}

const fileName = (source: DeviceSource, which: keyof KeptSounds) =>
  `${encodeURIComponent(deviceKey(source)).slice(0, 200)}.${which}.f32`;

export async function keepTest(source: DeviceSource, test: SoundTest, sounds: KeptSounds): Promise<void> {
  localStorage.setItem(KEY, JSON.stringify({ ...figures(), [deviceKey(source)]: test }));
  const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle(FOLDER, { create: true });
  for (const which of ['raw', 'kept'] as const) {
    const { samples, sampleRate } = sounds[which];
    const file = await folder.getFileHandle(fileName(source, which), { create: true });
    const writable = await file.createWritable();
    // The rate stands before the samples.
    await writable.write(new Float32Array([sampleRate]));
    await writable.write(samples);
    await writable.close();
  }
}

/** Both sounds of the last test; null when they are not there any more. */
export async function keptSounds(source: DeviceSource): Promise<KeptSounds | null> {
  try {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle(FOLDER);
    const read = async (which: keyof KeptSounds) => {
      const file = await (await folder.getFileHandle(fileName(source, which))).getFile();
      const all = new Float32Array(await file.arrayBuffer());
      return { samples: all.slice(1), sampleRate: all[0] ?? 48_000 };
    };
    return { raw: await read('raw'), kept: await read('kept') };
  } catch {
    return null;
  }
}
