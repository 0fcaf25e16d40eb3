'use client';

import { type CSSProperties, useEffect, useRef } from 'react';
import { placeCamera } from '@/core/layout';
import { fitWithin, type Size } from '@/core/sizes';
import type { Session } from '@/recorder/session';
import { useRoom, useSourceStates } from './lesson-room';

/** The live picture with the camera where it will lie, by the layout that the finished video has too. */
export function LivePicture({ children }: { children?: React.ReactNode }) {
  const { rig, session } = useRoom();
  const states = useSourceStates(session);
  const source: Size = states.screen?.size ?? { width: 1920, height: 1080 };
  const picture = fitWithin(source, rig.picture.box ?? source);
  const cameraSize = states.camera?.size ?? rig.camera?.size;
  const placed = rig.camera && cameraSize ? placeCamera(picture, cameraSize, rig.camera.place) : null;
  const share = (part: number, whole: number) => `${(100 * part) / whole}%`;
  const open = states.screen?.state === 'open';
  return (
    <div className="screen live" style={{ aspectRatio: `${picture.width} / ${picture.height}` }}>
      {open ? (
        <Live session={session} track="screen" label="Live picture" className="whole" />
      ) : (
        <p className="waiting">
          {states.screen?.state === 'opening' ? 'Opening …' : 'Nothing is aimed at yet.'}
        </p>
      )}
      {placed && states.camera?.state === 'open' && (
        <Live
          session={session}
          track="camera"
          label="Live camera"
          className="cam"
          style={{
            left: share(placed.at.x, picture.width),
            top: share(placed.at.y, picture.height),
            width: share(placed.at.width, picture.width),
            height: share(placed.at.height, picture.height),
            borderRadius: `${share(placed.radius, placed.at.width)} / ${share(placed.radius, placed.at.height)}`,
            transform: rig.camera?.place.mirror ? 'scaleX(-1)' : undefined,
          }}
        />
      )}
      {children}
    </div>
  );
}

type LiveProps = {
  session: Session | null;
  track: 'screen' | 'camera';
  label: string;
  className?: string;
  style?: CSSProperties;
};

/** A source's latest picture, drawn by a worker as often as the machine can spare. */
function Live({ session, track, label, className, style }: LiveProps) {
  const holder = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const box = holder.current;
    if (!box || !session) return;
    // Each preview gets a canvas of its own: one that was handed to a worker never comes back.
    const canvas = document.createElement('canvas');
    box.replaceChildren(canvas);
    const preview = session.preview(track, canvas);
    const sizes = new ResizeObserver(() => preview.resize());
    sizes.observe(box);
    return () => {
      sizes.disconnect();
      preview.close();
    };
  }, [session, track]);
  return <div ref={holder} className={className} style={style} role="img" aria-label={label} />;
}
