import type { Box, Sprite } from './i420';
import { deskAt } from './script';
import { type Pen, rounded, sprite, write } from './sprites';
import type { Item } from './stage';

export const DESK = { width: 1920, height: 1080 };

export const DESK_WINDOW: Box = { x: 160, y: 90, width: 1600, height: 900 };
const LIST: Box = { x: 184, y: 320, width: 1552, height: 520 };
const ROW = 56;
const NOTE_BOX: Box = { x: 200, y: 880, width: 1100, height: 76 };
const DIALOG: Box = { x: 760, y: 360, width: 620, height: 400 };
const NOTICE = { width: 440, height: 116 };

const VARIETIES = [
  'Runner bean, Painted Lark',
  'Kale, Saltmarsh',
  'Lettuce, Grey Mouse',
  'Tomato, Tin Lantern',
  'Squash, Hollow Bell',
  'Pea, Long Friday',
  'Chard, Copper Stair',
  'Leek, Winter Post',
];
const STATES = [
  'Returned',
  'Checked in',
  'Drying',
  'Returned',
  'Checked in',
  'Returned',
  'Label printed',
  'Drying',
];
const TONES: Record<string, string> = {
  Returned: '#2f5f9a',
  'Checked in': '#4d6a22',
  Drying: '#6b4a8a',
  'Label printed': '#51625f',
};
const ROWS = Array.from({ length: 21 }, (_, i) => ({
  lot: String(412 + i).padStart(4, '0'),
  variety: VARIETIES[i % VARIETIES.length] ?? '',
  state: STATES[(i * 5) % STATES.length] ?? '',
  seeds: String(20 + ((i * 73) % 290)),
}));
const COLUMNS = [40, 220, 820, 1280] as const;

/** What the practice display shows at a time, bottom first. Pure but for the cache of drawn letters. */
export function deskItems(ms: number): Item[] {
  const state = deskAt(ms);
  const items: Item[] = [{ key: 'desk', box: { x: 0, y: 0, ...DESK }, sprite: base() }];
  const put = (key: string, box: Box, drawn: Sprite, shiftY = 0) =>
    items.push({ key, box, sprite: drawn, shiftY });

  const lotText = state.lot + (state.lotFocused && state.caret ? '|' : '');
  put(
    `lot ${lotText} ${state.lotFocused}`,
    { x: 200, y: 180, width: 560, height: 68 },
    field(`lot ${lotText} ${state.lotFocused}`, 560, 68, lotText, state.lotFocused),
  );
  put(
    `list ${state.scroll} ${state.selected} ${state.checkedIn}`,
    LIST,
    list(state.selected, state.checkedIn),
    state.scroll,
  );
  const noteText = state.note === '' ? '' : `${state.note}${state.caret ? '|' : ''}`;
  if (noteText)
    put(
      `note ${noteText}`,
      NOTE_BOX,
      field(`note ${noteText}`, NOTE_BOX.width, NOTE_BOX.height, noteText, true),
    );
  if (state.dialog)
    put(
      `dialog ${state.dialog.seeds} ${state.dialog.marked}`,
      DIALOG,
      dialog(state.dialog.seeds, state.dialog.marked),
    );
  if (state.notice > 0) {
    const x = 1920 - 2 * Math.round((state.notice * (NOTICE.width + 40)) / 2);
    put(`notice`, { x, y: 60, ...NOTICE }, notice());
  }
  put('pointer', { ...state.pointer, width: 28, height: 40 }, pointer());
  return items;
}

function base(): Sprite {
  return sprite('desk', DESK.width, DESK.height, true, (pen) => {
    const ground = pen.createLinearGradient(0, 0, DESK.width, DESK.height);
    ground.addColorStop(0, '#c9dccf');
    ground.addColorStop(1, '#8fb0a6');
    pen.fillStyle = ground;
    pen.fillRect(0, 0, DESK.width, DESK.height);
    pen.fillStyle = '#17292b';
    pen.fillRect(0, 1032, DESK.width, 48);
    ['Packet Register', 'Bed Planner', 'Germination Log', 'Label Sheet'].forEach((name, i) => {
      rounded(pen, 24 + i * 210, 1040, 196, 32, 8, i === 0 ? '#2f5a57' : '#223a3b');
      write(pen, name, 40 + i * 210, 1063, 19, '#eef3ec', 550);
    });
    const { x, y, width, height } = DESK_WINDOW;
    rounded(pen, x, y, width, height, 14, '#fffdf8');
    rounded(pen, x, y, width, 56, 14, '#e9e3d4');
    pen.fillRect(x, y + 28, width, 28);
    write(pen, 'Packet Register', x + 28, y + 38, 24, '#17292b', 650);
    write(pen, 'Fernhollow Seed Library', x + width - 28, y + 37, 20, '#51625f', 450, 'right');
    rounded(pen, x + 1380, y + 94, 180, 58, 10, '#4d6a22');
    write(pen, 'Check in', x + 1470, y + 131, 22, '#ffffff', 650, 'center');
    ['Lot', 'Variety', 'State', 'Seeds'].forEach((name, i) => {
      write(pen, name, LIST.x + (COLUMNS[i] ?? 0), LIST.y - 18, 19, '#5d6b66', 550);
    });
    write(pen, 'Note', NOTE_BOX.x, NOTE_BOX.y - 12, 19, '#5d6b66', 550);
    rounded(
      pen,
      NOTE_BOX.x + 1,
      NOTE_BOX.y + 1,
      NOTE_BOX.width - 2,
      NOTE_BOX.height - 2,
      10,
      '#ffffff',
      '#cbbfa6',
    );
  });
}

/** All rows in one tall strip: scrolling is copying from another place of it. */
function list(selected: number | null, checkedIn: boolean): Sprite {
  return sprite(`list ${selected} ${checkedIn}`, LIST.width, ROWS.length * ROW, true, (pen) => {
    pen.fillStyle = '#fffdf8';
    pen.fillRect(0, 0, LIST.width, ROWS.length * ROW);
    ROWS.forEach((row, i) => {
      if (i === selected) rounded(pen, 8, i * ROW + 2, LIST.width - 16, ROW - 4, 10, '#cfe3dd');
      else if (i % 2 === 1) rounded(pen, 8, i * ROW + 2, LIST.width - 16, ROW - 4, 10, '#f7f3e8');
      const state = i === selected && checkedIn ? 'Checked in' : row.state;
      const seeds = i === selected && checkedIn ? '58' : row.seeds;
      const y = i * ROW + 36;
      write(pen, row.lot, COLUMNS[0], y, 22, '#17292b', 550);
      write(pen, row.variety, COLUMNS[1], y, 22, '#17292b');
      write(pen, state, COLUMNS[2], y, 22, TONES[state] ?? '#17292b', 650);
      write(pen, seeds, COLUMNS[3], y, 22, '#17292b');
    });
  });
}

function field(key: string, width: number, height: number, text: string, focused: boolean): Sprite {
  return sprite(key, width, height, true, (pen) => {
    pen.fillStyle = '#fffdf8';
    pen.fillRect(0, 0, width, height);
    rounded(pen, 1, 1, width - 2, height - 2, 10, '#ffffff', focused ? '#17625f' : '#cbbfa6');
    write(pen, text || 'Lot number', 20, height / 2 + 8, 24, text ? '#17292b' : '#6f7d78');
  });
}

function dialog(seeds: string, marked: boolean): Sprite {
  return sprite(`dialog ${seeds} ${marked}`, DIALOG.width, DIALOG.height, true, (pen: Pen) => {
    pen.fillStyle = '#cbbfa6';
    pen.fillRect(0, 0, DIALOG.width, DIALOG.height);
    pen.fillStyle = '#fffdf8';
    pen.fillRect(2, 2, DIALOG.width - 4, DIALOG.height - 4);
    write(pen, 'Opened packet', 40, 68, 32, '#17292b', 650);
    write(pen, 'Tomato, Tin Lantern · lot 0415', 40, 108, 22, '#51625f');
    write(pen, 'Seeds left', 40, 172, 22, '#51625f');
    rounded(pen, 40, 190, 260, 80, 10, '#ffffff', '#17625f');
    if (marked) {
      pen.fillStyle = '#b9d6f2';
      pen.fillRect(58, 204, 62, 52);
    }
    write(pen, seeds, 62, 246, 44, '#17292b', 650);
    rounded(pen, 420, 310, 160, 60, 10, '#4d6a22');
    write(pen, 'Keep', 500, 349, 24, '#ffffff', 650, 'center');
  });
}

function notice(): Sprite {
  return sprite('notice', NOTICE.width, NOTICE.height, false, (pen) => {
    rounded(pen, 0, 0, NOTICE.width, NOTICE.height, 14, '#17292b');
    write(pen, 'Germination Log', 24, 44, 21, '#b3d07d', 650);
    write(pen, 'Kale, Saltmarsh: count the seedlings today', 24, 80, 20, '#eef3ec');
  });
}

function pointer(): Sprite {
  return sprite('pointer', 28, 40, false, (pen) => {
    const path = new Path2D('M3 2v28l7-6 5 11 5-2-5-11 9-1Z');
    pen.fillStyle = '#17292b';
    pen.fill(path);
    pen.strokeStyle = '#ffffff';
    pen.lineWidth = 2;
    pen.stroke(path);
  });
}
