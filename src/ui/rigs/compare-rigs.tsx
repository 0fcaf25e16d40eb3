import { Table } from 'antd';
import { bitrateText, bytesText } from '@/core/base/figures';
import { rateText } from '@/core/base/rational';
import { sizeText } from '@/core/base/sizes';
import { CODEC_NAMES } from '@/core/codec/codecs';
import { NOTHING_MEASURED, planEncoding } from '@/core/encoding/encoding-plan';
import { type Flow, flowOf } from '@/core/encoding/flow';
import { fitted } from '@/core/layout/fit';
import type { Rig } from '@/core/rig/rig';
import { differences } from '@/core/rig/rig-choices';

export type Compared = { id: string; name: string; rig: Rig };

/** Both are estimated for this display. */
const SOURCE = { width: 1920, height: 1080 };

function flowFor(rig: Rig): Flow {
  const picture = fitted(rig.picture, SOURCE).size;
  const { codec, hint } = planEncoding(rig.picture, picture, NOTHING_MEASURED);
  return flowOf(rig, { source: SOURCE, codec, textHint: hint.hint });
}

/** A rig in one line. */
export function rigSentence(rig: Rig): string {
  const { picture } = rig;
  if (picture.source.from === 'none') return 'Sound only.';
  const parts = [
    picture.box ? `fits ${sizeText(picture.box)}` : 'one to one',
    `${rateText(picture.frameRate)} fps`,
    picture.codec === 'automatic' ? 'automatic codec' : CODEC_NAMES[picture.codec],
    rig.camera ? 'camera' : 'no camera',
    rig.voice ? 'voice' : 'no voice',
    rig.appSound && 'app sound',
  ];
  return `${parts.filter(Boolean).join(', ')}.`;
}

/** Two rigs side by side: what differs, what that decides, and what each comes to. */
export function CompareRigs({ left, right }: { left: Compared; right: Compared }) {
  const differing = differences(left.rig, right.rig);
  const [a, b] = [flowFor(left.rig), flowFor(right.rig)];
  const figures: [string, (flow: Flow) => string][] = [
    ['Picture', ({ screen }) => (screen ? sizeText(screen.picture) : 'none')],
    ['Raw, to encode', ({ screen }) => (screen ? bitrateText(screen.picked.value) : '–')],
    ['Estimated bitrate', ({ file }) => bitrateText(file.value)],
    ['Estimated size', ({ megabytesAMinute }) => `${bytesText(megabytesAMinute.value * 1e6)}/min`],
    [
      'Size for the planned length',
      ({ megabytesPlanned }) => (megabytesPlanned ? bytesText(megabytesPlanned.value * 1e6) : 'not planned'),
    ],
  ];
  const rows = [
    ...differing.map(({ path, name, does, words }) => ({
      ...{ key: path, name, left: words(left.rig), right: words(right.rig), effect: does },
      same: false,
    })),
    ...figures.map(([name, text]) => ({
      ...{ key: name, name, left: text(a), right: text(b), same: text(a) === text(b) },
      effect: name === 'Picture' ? `from a display of ${sizeText(SOURCE)}` : '',
    })),
  ];
  return (
    <section className="panel compare" aria-labelledby="compare-rigs">
      <h2 id="compare-rigs">
        {differing.length === 0
          ? 'Both rigs are the same.'
          : `${differing.length} ${differing.length === 1 ? 'choice differs' : 'choices differ'}`}
      </h2>
      <Table
        size="small"
        pagination={false}
        rowKey="key"
        dataSource={rows}
        rowClassName={({ same }) => (same ? 'mute' : '')}
        columns={[
          { title: 'Choice', dataIndex: 'name', rowScope: 'row' },
          { title: left.name, dataIndex: 'left' },
          { title: right.name, dataIndex: 'right' },
          { title: 'Effect', dataIndex: 'effect', className: 'mute' },
        ]}
      />
    </section>
  );
}
