import { join } from 'node:path';
import type { ShareToken } from '@/core/base/ids';
import { type Chapter, chaptersOf } from '@/core/cut/chapters';
import { Share } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { madePath, parcelDir, sizeOf } from '../media/media-folder';

/** What a link shows now. */
export type SharedMedia = {
  title: string;
  /** `waiting`: nothing can be watched yet; `first`: the recorded tracks, before the plain video is made; `whole`: the finished video. */
  state: 'waiting' | 'first' | 'whole';
  path: string | null;
  type: string;
  bytes: number;
  /** Of a finished video with several steps. */
  chapters: readonly Chapter[];
};

/** @returns null for links that were revoked, whose subject is gone, or that never were: nobody can tell these apart */
export async function sharedMedia(token: ShareToken): Promise<SharedMedia | null> {
  const em = await unitOfWork();
  const share = await em.findOne(
    Share,
    { token, revokedAt: null },
    { populate: ['parcel.lesson', 'take.lesson'] },
  );
  const lesson = share?.parcel?.lesson ?? share?.take?.lesson;
  if (!share || !lesson || lesson.deletedAt) return null;
  const { title } = lesson;
  if (share.parcel) {
    if (share.parcel.deletedAt) return null;
    const name = share.parcel.facts?.files[0]?.name;
    const path = name ? join(parcelDir(share.parcel.id), name) : null;
    const bytes = path && (await sizeOf(path));
    return path && bytes
      ? {
          title,
          state: 'whole',
          path,
          type: typeOf(path),
          bytes,
          chapters: chaptersOf(share.parcel.cut),
        }
      : nothingYet(title);
  }
  if (!share.take || share.take.deletedAt) return null;
  const plain = madePath(share.take.id, 'plain.mp4');
  const recorded = madePath(share.take.id, 'recorded.mkv');
  for (const [path, state] of [
    [plain, 'whole'],
    [recorded, 'first'],
  ] as const) {
    const bytes = await sizeOf(path);
    if (bytes) return { title, state, path, type: typeOf(path), bytes, chapters: [] };
  }
  return nothingYet(title);
}

const nothingYet = (title: string): SharedMedia => ({
  title,
  state: 'waiting',
  path: null,
  type: '',
  bytes: 0,
  chapters: [],
});

const TYPES: Record<string, string> = {
  mp4: 'video/mp4',
  mov: 'video/quicktime',
  mkv: 'video/x-matroska',
  wav: 'audio/wav',
};
const typeOf = (path: string): string => TYPES[path.split('.').pop() ?? ''] ?? 'application/octet-stream';
