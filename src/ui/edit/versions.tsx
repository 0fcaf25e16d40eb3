import { Button } from 'antd';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import type { LessonId } from '@/core/base/ids';
import type { Cut } from '@/core/cut/cut';
import type { CutVersionView } from '@/core/views/edit-page';
import { fetchJson } from '../wire/fetch-json';
import { useTold } from '../wire/use-told';

const VersionsDrawer = dynamic(() => import('./versions-drawer').then((m) => m.VersionsDrawer), {
  ssr: false,
});

/** Every saved state of the cut, and the way back to each. */
export function Versions({
  lesson,
  load,
  onRestore,
}: {
  lesson: LessonId;
  /** The saved states as the server has them now. */
  load: () => Promise<CutVersionView[]>;
  onRestore: (cut: Cut) => void;
}) {
  const told = useTold();
  const [versions, setVersions] = useState<CutVersionView[] | null>(null);
  const open = () => told(load().then(setVersions));
  const restore = (revision: number) =>
    told(
      fetchJson<{ cut: Cut }>('GET', `/api/lessons/${lesson}/cut/versions/${revision}`).then(({ cut }) => {
        onRestore(cut);
        setVersions(null);
      }),
    );
  return (
    <>
      <Button onClick={open}>Versions</Button>
      {versions && (
        <VersionsDrawer versions={versions} onClose={() => setVersions(null)} onRestore={restore} />
      )}
    </>
  );
}
