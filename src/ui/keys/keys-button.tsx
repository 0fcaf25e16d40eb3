'use client';

import { Button } from 'antd';
import dynamic from 'next/dynamic';
import { useState } from 'react';

const KeysDialog = dynamic(() => import('./keys-dialog').then((module) => module.KeysDialog), { ssr: false });

/** Opens the list of keys. */
export function KeysButton() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button type="text" aria-haspopup="dialog" onClick={() => setOpen(true)}>
        Keys
      </Button>
      {open && <KeysDialog onClose={() => setOpen(false)} />}
    </>
  );
}
