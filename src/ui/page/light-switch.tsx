'use client';

import { MoonOutlined, SunOutlined } from '@ant-design/icons';
import { Button, Tooltip } from 'antd';
import { useRouter } from 'next/navigation';
import type { Light } from '../look/light';

/** Day or night; kept in a cookie, so that the server already draws the right one. */
export function LightSwitch({ light }: { light: Light }) {
  const router = useRouter();
  const other: Light = light === 'day' ? 'night' : 'day';
  const change = () => {
    // biome-ignore lint/suspicious/noDocumentCookie: the Cookie Store API is not in every browser that can play a take
    document.cookie = `light=${other};path=/;max-age=31536000;samesite=strict`;
    router.refresh();
  };
  const name = other === 'night' ? 'Dark theme' : 'Light theme';
  return (
    <Tooltip title={name}>
      <Button
        type="text"
        icon={other === 'night' ? <MoonOutlined /> : <SunOutlined />}
        aria-label={name}
        onClick={change}
      />
    </Tooltip>
  );
}
