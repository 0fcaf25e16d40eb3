import { CODEC_NAMES } from '@/core/codecs';
import { chooseCodec } from '@/core/encoder-speed';
import { bitrateText, bytesText } from '@/core/figures';
import { fitted } from '@/core/fit';
import { type Flow, flowOf } from '@/core/flow';
import { automaticTextHint } from '@/core/rate';
import { rateText } from '@/core/rational';
import type { Rig } from '@/core/rig';
import { differences } from '@/core/rig-choices';
import { sizeText } from '@/core/sizes';

export type Compared = { id: string; name: string; rig: Rig };

/** What both are reckoned for: a display of today. */
const SOURCE = { width: 1920, height: 1080 };

function flowFor(rig: Rig): Flow {
  const picture = fitted(rig.picture, SOURCE).size;
  const { textHint, frameRate } = rig.picture;
  return flowOf(rig, {
    source: SOURCE,
    codec: chooseCodec(rig.picture, []).codec,
    textHint:
      textHint === 'automatic' ? automaticTextHint(frameRate, picture, undefined).hint : textHint === 'on',
  });
}

/** A rig in one line. */
export function rigSentence(rig: Rig): string {
  const { picture } = rig;
  if (picture.source.from === 'none') return 'Sound only.';
  const parts = [
    picture.box ? `fits ${sizeText(picture.box)}` : 'one to one',
    `${rateText(picture.frameRate)} a second`,
    picture.codec === 'automatic' ? 'codec by what keeps up' : CODEC_NAMES[picture.codec],
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
    ['To encode', ({ screen }) => (screen ? bitrateText(screen.picked.value) : '–')],
    ['Recorded, about', ({ file }) => bitrateText(file.value)],
    ['A minute, about', ({ megabytesAMinute }) => bytesText(megabytesAMinute.value * 1e6)],
    [
      'For the planned length',
      ({ megabytesPlanned }) => (megabytesPlanned ? bytesText(megabytesPlanned.value * 1e6) : 'none planned'),
    ],
  ];
  return (
    <section className="panel compare" aria-labelledby="compare-rigs">
      <h2 id="compare-rigs">
        {differing.length === 0
          ? 'The two are the same.'
          : `${differing.length} ${differing.length === 1 ? 'choice differs' : 'choices differ'}`}
      </h2>
      <table>
        <thead>
          <tr>
            <th scope="col">Choice</th>
            <th scope="col">{left.name}</th>
            <th scope="col">{right.name}</th>
            <th scope="col">What it decides</th>
          </tr>
        </thead>
        <tbody>
          {differing.map(({ path, name, does, words }) => (
            <tr key={path}>
              <th scope="row">{name}</th>
              <td>{words(left.rig)}</td>
              <td>{words(right.rig)}</td>
              <td className="mute">{does}</td>
            </tr>
          ))}
        </tbody>
        <tbody>
          {figures.map(([name, text]) => (
            <tr key={name} className={text(a) === text(b) ? 'mute' : ''}>
              <th scope="row">{name}</th>
              <td className="fig">{text(a)}</td>
              <td className="fig">{text(b)}</td>
              <td className="mute">{name === 'Picture' ? `of a display of ${sizeText(SOURCE)}` : ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
