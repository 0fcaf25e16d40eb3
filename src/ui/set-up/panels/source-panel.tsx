'use client';

import { Button } from 'antd';
import { sizeText } from '@/core/base/sizes';
import { SURFACE_NAMES } from '@/core/findings/wrong-surface';
import { regionWithin } from '@/core/image/region';
import { sizeDifference } from '@/core/image/subject-size';
import { withPictureSource } from '@/core/rig/picture-source';
import type { PictureSource, Surface } from '@/core/rig/rig';
import { isView, VIEWS } from '@/practice/desk/views';
import { PRACTICE_DEVICES } from '@/practice/practice-desk';
import { Choice } from '../../fields/choices';
import { useRoom, useSourceStates } from '../../lesson/lesson-room';
import { RigSegmented } from '../rig-field';
import { useSetUp } from '../set-up-context';
import { PracticeWindows } from './practice-windows';

const SURFACES: { value: Surface; label: string; what: string }[] = [
  {
    value: 'display',
    label: 'Display',
    what: 'For several programs together. Everything on the display is recorded, including this page and notifications.',
  },
  {
    value: 'window',
    label: 'Window',
    what: 'For one program. Menus and dialogs that open outside the window are missing; a window cannot share sound.',
  },
  {
    value: 'tab',
    label: 'Browser tab',
    what: 'For a web page. The tab can share its sound.',
  },
];

/** What the window lacks to fill the picture one to one, while it is being resized. */
function SubjectSize() {
  const { session } = useRoom();
  const { rig, changePicture } = useSetUp();
  const size = useSourceStates(session).screen?.size;
  const wanted = rig.picture.box;
  if (!wanted) return null;
  const missing = size && sizeDifference(size, wanted);
  const larger = size && size.width >= wanted.width && size.height >= wanted.height;
  return (
    <div className="choice wide" role="status">
      <span className="lab">One to one with {sizeText(wanted)}</span>
      {!size ? (
        <p>Share the window first; its size is shown here while you resize it.</p>
      ) : missing === null ? (
        <p>The window has exactly this size: recorded one to one.</p>
      ) : (
        <p>
          The window is {sizeText(size)}: make it <b>{missing}</b>.
        </p>
      )}
      <div className="row">
        {rig.picture.source.from === 'screen' && rig.picture.source.meant === 'tab' && (
          <Button
            type="text"
            onClick={() =>
              window.open('about:blank', '', `popup,width=${wanted.width},height=${wanted.height}`)
            }
          >
            Open a browser window of that size
          </Button>
        )}
        {larger && missing && (
          <Button
            type="text"
            onClick={() =>
              changePicture({
                aim: regionWithin({ x: 0, y: 0, width: wanted.width, height: wanted.height }, size),
              })
            }
          >
            Record a region of {sizeText(wanted)} instead
          </Button>
        )}
      </div>
    </div>
  );
}

/** Browsers call a display or window by a number, which says nothing to anybody. */
const named = (label = '') => (label === '' || /[:/]/.test(label) ? '' : `, “${label}”`);

const choiceOf = (source: PictureSource) =>
  source.from === 'practice' ? source.id : source.from === 'none' ? 'none' : `screen:${source.meant}`;
const sourceOf = (value: string): PictureSource =>
  value === 'none'
    ? { from: 'none' }
    : value.startsWith('screen:')
      ? { from: 'screen', meant: value.slice(7) as Surface }
      : { from: 'practice', id: value };

/** What is captured. */
export function SourcePanel() {
  const { session } = useRoom();
  const { rig, changeRig } = useSetUp();
  const states = useSourceStates(session);
  const { source } = rig.picture;
  const view = source.from === 'practice' && isView(source.id) ? source.id : null;
  const alone = view
    ? VIEWS[view].what !== 'display'
    : source.from === 'screen' && source.meant !== 'display';
  const surface = source.from === 'screen' ? SURFACES.find(({ value }) => value === source.meant) : null;
  return (
    <div className="grid">
      <Choice
        name="Source"
        value={choiceOf(source)}
        onChange={(value) => changeRig((old) => withPictureSource(old, sourceOf(value)))}
        options={[
          {
            label: 'Practice',
            options: PRACTICE_DEVICES.picture.map(({ id, name }) => ({ value: id, label: name })),
          },
          {
            label: 'This computer',
            options: SURFACES.map(({ value, label }) => ({ value: `screen:${value}`, label })),
          },
          { label: 'Nothing', options: [{ value: 'none', label: 'No picture, sound only' }] },
        ]}
        note={
          surface?.what ??
          (view && VIEWS[view].what !== 'display'
            ? SURFACES.find(({ value }) => value === VIEWS[view].what)?.what
            : source.from === 'practice'
              ? 'Simulated programs that run a scripted lesson: no permission and no device is needed.'
              : undefined)
        }
        path="picture.source"
      />
      {source.from === 'screen' && (
        <div className="choice">
          <span className="lab">Browser picker</span>
          <Button color="primary" variant="filled" onClick={() => void session?.shareScreen()}>
            {states.screen?.state === 'open' ? 'Share another' : 'Share now'}
          </Button>
          {states.screen?.state === 'open' ? (
            <p className="small" role="status">
              Shared: {states.screen.shared ? SURFACE_NAMES[states.screen.shared] : 'a source'}
              {states.screen.size && `, ${sizeText(states.screen.size)}`}
              {named(states.screen.label)}. If this is not what you chose, share again.
            </p>
          ) : (
            <p className="small mute">The studio compares what you share with what you chose here.</p>
          )}
        </div>
      )}
      {source.from === 'screen' && (
        <RigSegmented
          path="picture.pointer"
          options={[
            { value: 'as-captured', label: 'Browser default' },
            { value: 'shown', label: 'Shown' },
            { value: 'hidden', label: 'Hidden' },
          ]}
          note="Takes effect the next time you share."
        />
      )}
      {alone && <SubjectSize />}
      {view && <PracticeWindows />}
    </div>
  );
}
