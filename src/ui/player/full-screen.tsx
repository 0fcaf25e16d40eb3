'use client';

import { FullscreenOutlined } from '@ant-design/icons';
import { Button } from 'antd';
import type { RefObject } from 'react';
import { useAction } from '../keys/use-action';

/** Shows a player's picture on the whole screen, and back; Escape leaves it as well. */
export function FullScreen({ frame }: { frame: RefObject<HTMLElement | null> }) {
  const toggle = () => {
    if (document.fullscreenElement) void document.exitFullscreen();
    else void frame.current?.requestFullscreen();
  };
  useAction('play.full', toggle);
  return <Button type="text" icon={<FullscreenOutlined />} aria-label="Full screen" onClick={toggle} />;
}
