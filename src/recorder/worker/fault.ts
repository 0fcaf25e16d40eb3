import { problemOf } from '@/core/base/problem';
import type { Replacement } from '@/core/recording/replacement';

/** Something that a track is made by has failed: an ordinary event, which ends its segment and not the take. */
export type Fault = { part: 'encoder' | 'muxer' | 'file'; error: unknown };

/** How a track continues after a fault. */
export type Recovery = { fault: Fault; by: Replacement };

/** What failed, as a sentence. */
export const faultText = ({ part }: Fault): string =>
  ({
    encoder: 'The encoder failed.',
    muxer: 'The muxer failed.',
    file: 'The file could not be written.',
  })[part];

/** What the browser says of it, for whoever looks into it later. */
export const causeOf = ({ error }: Fault): string => problemOf(error).message;
