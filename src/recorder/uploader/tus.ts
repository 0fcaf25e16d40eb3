import type { SegmentId } from '@/core/base/ids';
import { Problem, ProblemError } from '@/core/base/problem';
import type { SegmentPart } from '@/core/recording/take';
import {
  ALREADY_CONFIRMED,
  FIRST_PIECE_BYTES,
  nextPieceBytes,
  pieceAfterTimeout,
  uploadName,
} from '@/core/recording/upload';

/** tus resumable upload protocol 1.0.0, the part a growing file needs: creation with deferred length, HEAD, PATCH. */
const VERSION = { 'Tus-Resumable': '1.0.0' };

/** A server or a network that hangs is as good as one that is away: the next round tries again. */
export const ANSWER_MS = 30_000;

/** `lengthKnown`: the server has been told the whole length already, perhaps by a request whose bytes never came. */
export type Upload = { url: string; offset: number; lengthKnown: boolean };

const addressOf = (segment: SegmentId, part: SegmentPart) => `/api/uploads/${uploadName(segment, part)}`;

/**
 * Where an upload stands on the server.
 * @returns null when the server has none of that name
 */
export async function standing(segment: SegmentId, part: SegmentPart): Promise<Upload | null> {
  const url = addressOf(segment, part);
  const response = await request(url, { method: 'HEAD', headers: VERSION });
  if (response.status === 404 || response.status === 410 || response.status === 403) return null;
  // "The Server MUST always include the Upload-Offset header in the response for a HEAD request."
  const offset = Number(response.headers.get('Upload-Offset'));
  if (!response.ok || !Number.isSafeInteger(offset)) throw await failure(response);
  return { url, offset, lengthKnown: response.headers.has('Upload-Length') };
}

/**
 * Begins an upload whose length is not known yet: "Upload-Defer-Length MUST be 1".
 * @returns null when the server has the segment for good already, and its answer was lost
 */
export async function begin(segment: SegmentId, part: SegmentPart): Promise<Upload | null> {
  const name = btoa(uploadName(segment, part));
  const headers = { ...VERSION, 'Upload-Defer-Length': '1', 'Upload-Metadata': `name ${name}` };
  const response = await request('/api/uploads', { method: 'POST', headers });
  if (response.status === 201) return { url: addressOf(segment, part), offset: 0, lengthKnown: false };
  const error = await failure(response);
  if (error.problem.code === ALREADY_CONFIRMED) return null;
  throw error;
}

/**
 * Sends the next bytes.
 * @param length the whole length, with the last bytes only: "the Client MUST set the Upload-Length header in the next PATCH
 *   request once the length is known", and "once set the length MUST NOT be changed"
 * @returns the new offset, as the server says
 */
export async function send(
  { url, offset, lengthKnown }: Upload,
  bytes: Blob,
  length?: number,
): Promise<number> {
  const headers: Record<string, string> = {
    ...VERSION,
    'Content-Type': 'application/offset+octet-stream',
    'Upload-Offset': String(offset),
  };
  if (length !== undefined && !lengthKnown) headers['Upload-Length'] = String(length);
  const response = await request(url, { method: 'PATCH', headers, body: bytes });
  if (response.status !== 204) throw await failure(response);
  return Number(response.headers.get('Upload-Offset'));
}

let pieceBytes = FIRST_PIECE_BYTES;

/**
 * Sends from where an upload stands to `size`, in pieces as large as the line is fast.
 * @param read gives the bytes from one place to another
 * @param whole nothing comes after `size`
 * @param untilMs `performance.now()` after which no further piece begins: others wait for their turn
 * @param transmit sends one piece
 */
export async function sendUpTo(
  upload: Upload,
  {
    size,
    whole,
    read,
    untilMs = Number.POSITIVE_INFINITY,
    transmit = send,
  }: {
    size: number;
    whole: boolean;
    read: (from: number, to: number) => Blob;
    untilMs?: number;
    transmit?: typeof send;
  },
): Promise<Upload> {
  let now = upload;
  do {
    const to = Math.min(size, now.offset + pieceBytes);
    const last = whole && to === size;
    if (to <= now.offset && !last) break;
    const from = performance.now();
    let offset: number;
    try {
      offset = await transmit(now, read(now.offset, to), last ? size : undefined);
    } catch (error) {
      if (isTimeout(error)) pieceBytes = pieceAfterTimeout(pieceBytes);
      throw error;
    }
    if (to > now.offset) pieceBytes = nextPieceBytes(to - now.offset, performance.now() - from);
    now = { ...now, offset, lengthKnown: now.lengthKnown || last };
  } while (now.offset < size && performance.now() < untilMs);
  return now;
}

const isTimeout = (error: unknown): boolean =>
  error instanceof Error && error.cause instanceof DOMException && error.cause.name === 'TimeoutError';

async function request(url: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(url, { ...init, signal: AbortSignal.timeout(ANSWER_MS) });
  } catch (cause) {
    throw new ProblemError({ code: 'unreachable', message: 'The server cannot be reached.' }, { cause });
  }
}

async function failure(response: Response): Promise<ProblemError> {
  const problem = Problem.safeParse(await response.json().catch(() => null));
  return new ProblemError(
    problem.success
      ? problem.data
      : { code: 'upload-refused', message: `The server answered ${response.status}.` },
  );
}
