import type { Size } from '@/core/base/sizes';
import type { Box, Sprite } from '../i420';
import { deskAt } from '../script';
import { type Pen, rounded, sprite, write } from '../sprites';
import type { Item } from '../stage';
import { frame, item } from './window';

const LIST_AT = { x: 24, y: 230 };
const ROW = 56;
const NOTE: Size = { width: 1100, height: 76 };
const DIALOG: Box = { x: 600, y: 270, width: 620, height: 400 };

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

const LIST_HEIGHT = ROWS.length * ROW;

/** Where the note's field lies in a window of this height. */
const noteBox = (height: number): Box => ({ x: 40, y: height - 110, ...NOTE });

/** A table with a form: a packet is looked up, checked in, and gets a note. */
export function packetRegister(t: number, size: Size): Item[] {
  const state = deskAt(t);
  const lotText = state.lot + (state.lotFocused && state.caret ? '|' : '');
  const listed = { width: size.width - 48, height: Math.min(LIST_HEIGHT, Math.max(ROW, size.height - 380)) };
  const scroll = Math.max(0, Math.min(state.scroll, LIST_HEIGHT - listed.height));
  const noteText = state.note === '' ? '' : `${state.note}${state.caret ? '|' : ''}`;
  const note = noteBox(size.height);
  const fieldKey = `lot ${lotText} ${state.lotFocused}`;
  const rowsKey = `list ${state.selected} ${state.checkedIn}`;
  return [
    ...frame('Packet Register', size),
    item('form', { x: 0, y: 60, width: size.width, height: 170 }, form(size.width)),
    item('note label', { x: 0, y: note.y - 36, width: 400, height: 34 }, noteLabel()),
    item(
      fieldKey,
      { x: 40, y: 90, width: 560, height: 68 },
      field(fieldKey, 560, 68, lotText, state.lotFocused),
    ),
    item(rowsKey, { ...LIST_AT, ...listed }, list(listed.width, state.selected, state.checkedIn), scroll),
    item(
      `note ${noteText}`,
      note,
      field(`note ${noteText}`, NOTE.width, NOTE.height, noteText, noteText !== ''),
    ),
  ];
}

/** A dialog, and what the note's field proposes: windows of their own, which the system puts above. */
export function packetRegisterPopUps(t: number, { height }: Size): Item[] {
  const { dialog: open, note } = deskAt(t);
  const items: Item[] = [];
  if (open) {
    const key = `dialog ${open.seeds} ${open.marked}`;
    items.push(item(key, DIALOG, dialog(open.seeds, open.marked)));
  }
  if (note !== '') {
    const box = { x: 40, y: height - 34, width: 700, height: 116 };
    items.push(item('proposed', box, proposed(box)));
  }
  return items;
}

function form(width: number): Sprite {
  return sprite(`form ${width}`, width, 170, true, (pen) => {
    pen.fillStyle = '#fffdf8';
    pen.fillRect(0, 0, width, 170);
    rounded(pen, width - 220, 34, 180, 58, 10, '#4d6a22');
    write(pen, 'Check in', width - 130, 71, 22, '#ffffff', 650, 'center');
    ['Lot', 'Variety', 'State', 'Seeds'].forEach((name, i) => {
      write(pen, name, LIST_AT.x + (COLUMNS[i] ?? 0), 152, 19, '#5d6b66', 550);
    });
  });
}

function noteLabel(): Sprite {
  return sprite('note label', 400, 34, true, (pen) => {
    pen.fillStyle = '#fffdf8';
    pen.fillRect(0, 0, 400, 34);
    write(pen, 'Note', 40, 24, 19, '#5d6b66', 550);
  });
}

function proposed({ width, height }: Size): Sprite {
  return sprite('proposed', width, height, true, (pen) => {
    pen.fillStyle = '#cbbfa6';
    pen.fillRect(0, 0, width, height);
    pen.fillStyle = '#ffffff';
    pen.fillRect(2, 2, width - 4, height - 4);
    write(pen, 'Opened on the twelfth, dry and clean.', 20, 42, 22, '#17292b');
    write(pen, 'Opened, some damp: spread out to dry.', 20, 88, 22, '#17292b');
  });
}

/** All rows in one tall strip: scrolling is copying from another place of it. */
function list(width: number, selected: number | null, checkedIn: boolean): Sprite {
  return sprite(`list ${width} ${selected} ${checkedIn}`, width, LIST_HEIGHT, true, (pen) => {
    pen.fillStyle = '#fffdf8';
    pen.fillRect(0, 0, width, LIST_HEIGHT);
    ROWS.forEach((row, i) => {
      if (i === selected) rounded(pen, 8, i * ROW + 2, width - 16, ROW - 4, 10, '#cfe3dd');
      else if (i % 2 === 1) rounded(pen, 8, i * ROW + 2, width - 16, ROW - 4, 10, '#f7f3e8');
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
    write(
      pen,
      text || (width === NOTE.width ? '' : 'Lot number'),
      20,
      height / 2 + 8,
      24,
      text ? '#17292b' : '#6f7d78',
    );
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
