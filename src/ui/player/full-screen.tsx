'use client';

import { FullscreenOutlined } from '@ant-design/icons';
import { Button, Tooltip } from 'antd';
import type { RefObject } from 'react';
import { Key } from '../keys/key';
import { useAction } from '../keys/use-action';

/** Shows a player's picture on the whole screen, and back; Escape leaves it as well. */
export function FullScreen({ frame }: { frame: RefObject<HTMLElement | null> }) {
  const toggle = () => {
    if (document.fullscreenElement) void document.exitFullscreen();
    else void frame.current?.requestFullscreen();
  };
  useAction('play.full', toggle);
  return (
    <Tooltip
      title={
        <>
          Full screen <Key of="play.full" />
        </>
      }
    >
      <Button type="text" icon={<FullscreenOutlined />} aria-label="Full screen" onClick={toggle} />
    </Tooltip>
  );
}
