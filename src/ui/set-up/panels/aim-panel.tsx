'use client';

import type { PictureSource, Surface } from '@/core/rig';
import { PRACTICE_DEVICES } from '@/practice/practice-desk';
import { useRoom, useSourceStates } from '../../lesson/lesson-room';
import { Choice } from '../choices';
import { useSetUp } from '../set-up-context';

const SURFACES: { value: Surface; label: string; what: string }[] = [
  {
    value: 'display',
    label: 'A whole display',
    what: 'Right when several programs work together. Everything on it is in the picture, this page and notifications too.',
  },
  {
    value: 'window',
    label: 'One window',
    what: 'Right when one program is the subject. What opens outside it, menus and dialogs, is missing; it shares no sound.',
  },
  {
    value: 'tab',
    label: 'A browser tab',
    what: 'Right for a lesson about a web page. Its sound can be shared with it.',
  },
];

const choiceOf = (source: PictureSource) =>
  source.from === 'practice' ? source.id : source.from === 'none' ? 'none' : `screen:${source.meant}`;
const sourceOf = (value: string): PictureSource =>
  value === 'none'
    ? { from: 'none' }
    : value.startsWith('screen:')
      ? { from: 'screen', meant: value.slice(7) as Surface }
      : { from: 'practice', id: value };

/** What is captured. */
export function AimPanel() {
  const { session } = useRoom();
  const { rig, changePicture } = useSetUp();
  const states = useSourceStates(session);
  const { source } = rig.picture;
  const surface = source.from === 'screen' ? SURFACES.find(({ value }) => value === source.meant) : null;
  return (
    <div className="grid">
      <Choice
        name="What is shown"
        value={choiceOf(source)}
        onChange={(value) => changePicture({ source: sourceOf(value) })}
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
          (source.from === 'practice'
            ? 'A made-up program that works by itself: no permission and no device is needed.'
            : undefined)
        }
        path="picture.source"
      />
      {source.from === 'screen' && (
        <div className="choice">
          <span className="lab">In the browser’s own picker</span>
          <button type="button" className="act main" onClick={() => void session?.shareScreen()}>
            {states.screen?.state === 'open' ? 'Choose another' : 'Choose it now'}
          </button>
          <p className="small mute">
            The picker has the last word; what came is compared with what was meant.
          </p>
        </div>
      )}
      {source.from !== 'none' && (
        <p className="small mute wide">
          All of what is captured is kept. One cannot capture more pixels than are there: a smaller window on
          the screen gives larger letters.
        </p>
      )}
    </div>
  );
}
