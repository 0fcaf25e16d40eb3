'use client';

import { Button, Flex } from 'antd';
import type { Rect } from '@/core/base/sizes';
import { sizeText } from '@/core/base/sizes';
import {
  ARRANGED,
  arranged,
  DISPLAYS,
  type DisplayId,
  displayOf,
  PROGRAM_NAMES,
  type Program,
  STANDS_ON,
} from '@/practice/desk/arrangement';
import { useDrawing } from '../../drawing/use-drawing';
import { useArrangement, useRoom } from '../../lesson/lesson-room';

const DISPLAY_NAMES: Record<DisplayId, string> = { desk: 'Display 1', 'desk-2': 'Display 2' };

/** The two practice displays from far away: their windows are moved and resized here, as on a real desk. */
export function PracticeWindows() {
  const { session } = useRoom();
  const arrangement = useArrangement(session);
  const moved = JSON.stringify(arrangement) !== JSON.stringify(ARRANGED);
  const put = (program: Program, box: Rect) =>
    session?.arrange({ ...arrangement, [program]: arranged(program, box) });
  return (
    <div className="choice wide">
      <span className="lab">Windows on the practice displays</span>
      <Flex gap={14} align="end" style={{ maxWidth: 720 }}>
        {(Object.keys(STANDS_ON) as DisplayId[]).map((display) => (
          <div
            key={display}
            className="display"
            style={{
              aspectRatio: `${DISPLAYS[display].width} / ${DISPLAYS[display].height}`,
              flexGrow: DISPLAYS[display].width,
            }}
          >
            <span className="display-name">
              {DISPLAY_NAMES[display]}, {sizeText(DISPLAYS[display])}
            </span>
            {STANDS_ON[display].map((program) => (
              <WindowBox
                key={program}
                program={program}
                box={arrangement[program]}
                onChange={(box) => put(program, box)}
              />
            ))}
          </div>
        ))}
      </Flex>
      <p className="small mute">
        Drag a window to move it, its corner to resize it; or arrow keys, with Shift further.{' '}
        {moved && (
          <Button type="link" onClick={() => session?.arrange(ARRANGED)}>
            As they were
          </Button>
        )}
      </p>
    </div>
  );
}

function WindowBox(props: { program: Program; box: Rect; onChange: (box: Rect) => void }) {
  const { program, box } = props;
  const display = DISPLAYS[displayOf(program)];
  const percent = (part: number, whole: number) => `${(100 * part) / whole}%`;
  const { box: frame, grip } = useDrawing<'place' | 'size', Rect>(display.width, box, (held, from, dx, dy) =>
    props.onChange(
      held === 'place'
        ? { ...from, x: from.x + dx, y: from.y + dy }
        : { ...from, width: from.width + dx, height: from.height + dy },
    ),
  );
  return (
    <div className="over window-room">
      {/* biome-ignore lint/a11y/useSemanticElements: no element moves in two directions */}
      <div
        ref={frame}
        className="window-box"
        role="group"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved by keys
        tabIndex={0}
        aria-label={`${PROGRAM_NAMES[program]}, ${sizeText(box)} from ${box.x}, ${box.y}. Arrow keys move it, with Shift further.`}
        style={{
          left: percent(box.x, display.width),
          top: percent(box.y, display.height),
          width: percent(box.width, display.width),
          height: percent(box.height, display.height),
        }}
        {...grip('place')}
      >
        <b className="cut-off">{PROGRAM_NAMES[program]}</b>
        <span className="cut-off">{sizeText(box)}</span>
        <button
          type="button"
          className="handle-stone"
          aria-label={`${PROGRAM_NAMES[program]}, size`}
          style={{ left: '100%', top: '100%' }}
          {...grip('size')}
        />
      </div>
    </div>
  );
}
