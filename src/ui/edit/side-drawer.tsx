import { Drawer } from 'antd';
import type { ReactNode } from 'react';

/** A list beside the picture: picture and strip stay in sight and can be edited while it is open. */
export function SideDrawer({
  title,
  onClose,
  children,
}: {
  title: string;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <Drawer
      open
      title={title}
      mask={false}
      placement="left"
      size={410}
      styles={{ wrapper: { bottom: 'var(--edit-foot)' }, body: { padding: 16 } }}
      onClose={onClose}
    >
      {children}
    </Drawer>
  );
}
