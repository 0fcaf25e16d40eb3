import type { MediaRole } from '../messages';
import { openPreviewPort, type PreviewPort } from './preview-port';
import type { SeenSource } from './video-track';

/** Who is shown the pictures of each track: one preview a role, and any number of those that measure on what is captured. */
export type Lending = {
  /** A picture arrived at a track. */
  readonly offer: (role: MediaRole, source: SeenSource) => void;
  /** A new preview takes the place of the one before. */
  readonly preview: (role: MediaRole, port: MessagePort) => void;
  /** Ends when its port says so. */
  readonly sample: (role: MediaRole, port: MessagePort) => void;
  /** The preview's canvas is empty. */
  readonly again: (role: MediaRole) => void;
  /** Nobody looks any more. */
  readonly off: (role: MediaRole) => void;
  readonly close: () => void;
};

/** @param sourceOf what has a role at the moment; undefined for sounds and for roles without a source */
export function openFrameSharing(sourceOf: (role: MediaRole) => SeenSource | undefined): Lending {
  const previews = new Map<MediaRole, PreviewPort>();
  const samplers = new Map<PreviewPort, MediaRole>();
  const off = (role: MediaRole) => {
    previews.get(role)?.close();
    previews.delete(role);
  };
  return {
    offer: (role, source) => {
      previews.get(role)?.offer(source);
      for (const [sampler, of] of samplers) if (of === role) sampler.offer(source);
    },
    preview: (role, port) => {
      off(role);
      previews.set(
        role,
        openPreviewPort(port, () => sourceOf(role)),
      );
    },
    sample: (role, port) => {
      const sampler = openPreviewPort(
        port,
        () => sourceOf(role),
        () => samplers.delete(sampler),
      );
      samplers.set(sampler, role);
    },
    again: (role) => previews.get(role)?.again(),
    off,
    close: () => {
      for (const role of [...previews.keys()]) off(role);
    },
  };
}
