import type { IncomingId, TakeId } from '../base/ids';
import type { JobView } from './take-page';

/** A file on its way into a lesson. */
export type IncomingView = {
  id: IncomingId;
  name: string;
  /** Place of the video where it is added. */
  atUs: number;
  /** The take that it becomes; it is there once the job is done. */
  take: TakeId;
  /** Of slides; null until they are made, and for video and sound. */
  pages: number | null;
  job: JobView;
};
