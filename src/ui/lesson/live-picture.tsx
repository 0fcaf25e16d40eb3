'use client';

import { useSelector } from '@xstate/react';
import { Flex } from 'antd';
import { type CSSProperties, type ReactNode, useEffect, useRef } from 'react';
import type { Size } from '@/core/base/sizes';
import type { ColourKey } from '@/core/image/colour-key';
import { type Fitted, fitted } from '@/core/layout/fit';
import { placeCamera } from '@/core/layout/layout';
import { isSoundOnly } from '@/core/rig/picture-source';
import type { Session } from '@/recorder/session';
import { useRoom, useSourceStates } from './lesson-room';
import { useOwnMirror } from './own-mirror';

const share = (part: number, whole: number) => `${(100 * part) / whole}%`;

/** Where the whole source must lie for its kept part to be seen where the picture has it. */
const sourceStyle = ({ crop }: Pick<Fitted, 'crop'>, source: Size): CSSProperties => ({
  width: share(source.width, crop.width),
  height: share(source.height, crop.height),
  left: share(-crop.x, crop.width),
  top: share(-crop.y, crop.height),
});

/** The camera's place in the recorded picture, in pixels of the source that the picture is taken from. */
function inSource<P extends ReturnType<typeof placeCamera>>(placed: P, { crop, at }: Fitted): P {
  const by = crop.width / at.width;
  return {
    ...placed,
    at: {
      x: crop.x + (placed.at.x - at.x) * by,
      y: crop.y + (placed.at.y - at.y) * by,
      width: placed.at.width * by,
      height: placed.at.height * by,
    },
    radius: placed.radius * by,
    border: placed.border && { ...placed.border, px: placed.border.px * by },
  };
}

/**
 * The live picture with the camera where it will lie, by the layout that the finished video has too.
 * @param whole shows the full frame instead of the capture area, for aiming
 */
export function LivePicture({ whole = false, children }: { whole?: boolean; children?: ReactNode }) {
  const { rig, session } = useRoom();
  const states = useSourceStates(session);
  const source: Size = states.screen?.size ?? { width: 1920, height: 1080 };
  const follows = states.screen?.region;
  const recorded = fitted({ ...rig.picture, aim: follows ?? rig.picture.aim }, source);
  const made = whole ? fitted({ aim: 'whole', box: null, fit: 'within' }, source) : recorded;
  const { size, at } = made;
  const soundOnly = isSoundOnly(rig);
  const cameraSize = states.camera?.size ?? rig.camera?.size;
  const inRecorded =
    rig.camera && cameraSize && !soundOnly ? placeCamera(recorded.size, cameraSize, rig.camera.place) : null;
  const placed = inRecorded && whole ? inSource(inRecorded, recorded) : inRecorded;
  const [mirrored] = useOwnMirror();
  const hidden = useIsRecorded(session) && rig.picture.preview === 'off' && !soundOnly;
  return (
    <div
      className={soundOnly ? 'screen live sound-only' : 'screen live'}
      // As wide as there is room, and never so tall that what belongs to it is out of sight.
      style={{
        aspectRatio: `${size.width} / ${size.height}`,
        maxWidth: `calc(var(--live-height) * ${size.width / size.height})`,
      }}
    >
      {hidden ? (
        <Flex className="over waiting" align="center" justify="center" component="p">
          The preview is off while recording.
        </Flex>
      ) : states.screen?.state === 'open' ? (
        <div
          className="kept"
          style={{
            left: share(at.x, size.width),
            top: share(at.y, size.height),
            width: share(at.width, size.width),
            height: share(at.height, size.height),
          }}
        >
          <Live
            session={session}
            track="screen"
            label="Live picture"
            className={follows ? 'whole follows' : 'whole'}
            style={sourceStyle(made, source)}
          />
        </div>
      ) : (
        <Flex className="over waiting" align="center" justify="center" component="p">
          {soundOnly
            ? 'Sound only: there is no picture.'
            : states.screen?.state === 'opening'
              ? 'Opening …'
              : 'Nothing is aimed at yet.'}
        </Flex>
      )}
      {placed && cameraSize && states.camera?.state === 'open' && !hidden && (
        <CameraOver
          placed={placed}
          within={size}
          camera={cameraSize}
          mirrored={rig.camera?.place.mirror !== mirrored}
          session={session}
        />
      )}
      {children}
    </div>
  );
}

/** Whether something is being recorded now, in a take or a rehearsal. */
const useIsRecorded = (session: Session | null): boolean =>
  useSelector(session?.actor, (state) => Boolean(state?.matches('taking') || state?.matches('rehearsing')));

type CameraProps = {
  placed: ReturnType<typeof placeCamera>;
  /** Size of the recorded picture. */
  within: Size;
  camera: Size;
  mirrored: boolean;
  session: Session | null;
};

function CameraOver({ placed, within: size, camera, mirrored, session }: CameraProps) {
  const { at, radius, border } = placed;
  return (
    <div
      className="cam"
      style={{
        left: share(at.x, size.width),
        top: share(at.y, size.height),
        width: share(at.width, size.width),
        height: share(at.height, size.height),
        borderRadius: `${share(radius, at.width)} / ${share(radius, at.height)}`,
        transform: mirrored ? 'scaleX(-1)' : undefined,
      }}
    >
      <Live
        session={session}
        track="camera"
        label="Live camera"
        className="whole"
        style={sourceStyle(placed, camera)}
        wall={placed.key}
      />
      {border && (
        <i
          className="over"
          style={{
            borderRadius: 'inherit',
            boxShadow: `inset 0 0 0 ${(100 * border.px) / size.width}cqw ${border.colour}`,
          }}
        />
      )}
    </div>
  );
}

type LiveProps = {
  session: Session | null;
  track: 'screen' | 'camera';
  label: string;
  className?: string;
  style?: CSSProperties;
  /** Chroma key. */
  wall?: ColourKey | null;
};

/** A source's latest picture, drawn by a worker as often as the machine can spare. */
function Live({ session, track, label, className, style, wall = null }: LiveProps) {
  const holder = useRef<HTMLDivElement>(null);
  const shown = useRef<ReturnType<Session['preview']>>(undefined);
  useEffect(() => {
    const box = holder.current;
    if (!box || !session) return;
    // Each preview gets a canvas of its own: one that was handed to a worker never comes back.
    const canvas = document.createElement('canvas');
    box.replaceChildren(canvas);
    const preview = session.preview(track, canvas);
    shown.current = preview;
    const sizes = new ResizeObserver(() => preview.resize());
    sizes.observe(box);
    return () => {
      sizes.disconnect();
      preview.close();
    };
  }, [session, track]);
  const wallKey = JSON.stringify(wall);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new preview must be told too, and the same wall is not another one
  useEffect(() => shown.current?.setKey(wall), [session, track, wallKey]);
  return <div ref={holder} className={className} style={style} role="img" aria-label={label} />;
}
