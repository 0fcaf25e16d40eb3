'use client';

import { Alert, Button, Modal, Table, type TableColumnsType } from 'antd';
import { useState } from 'react';
import {
  ACTION_IDS,
  ACTIONS,
  type ActionId,
  conflictOf,
  keyPressOf,
  keysOf,
  keyText,
  withKey,
} from '@/core/views/keys';
import { changeKeys, useKeyChanges, useMac } from './key-changes';

/** A key that somebody pressed for an action, and why the action does not have it yet. */
type Asked = { action: ActionId; press: string | null; has: ActionId | null };

/** The actions that stand together under one heading, in their order. */
const besides = (id: ActionId) => ACTION_IDS.filter((other) => ACTIONS[other].group === ACTIONS[id].group);

/** What the dialog shows and does: the keys as they are, the one that waits for a press, the one that was refused. */
function useKeyChoice() {
  const changes = useKeyChanges();
  const [listening, setListening] = useState<ActionId | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  const give = (action: ActionId, key: string | null) => {
    setAsked(null);
    changeKeys(withKey(changes, action, key));
  };
  return {
    ...{ changes, listening, asked, give },
    listen: setListening,
    leave: (action: ActionId) => setListening((now) => (now === action ? null : now)),
    restore: (action: ActionId) => {
      const { [action]: _, ...rest } = changes;
      setAsked(null);
      changeKeys(rest);
    },
    press: (action: ActionId, event: React.KeyboardEvent) => {
      if (['Shift', 'Control', 'Alt', 'Meta', 'Tab'].includes(event.key)) return;
      // Nothing else gets this key: Escape would close the dialog, Space press the button again.
      event.preventDefault();
      event.stopPropagation();
      setListening(null);
      const pressed = keyPressOf(event);
      const has = pressed === null ? null : conflictOf(action, pressed, changes);
      if (pressed !== null && has === null) give(action, pressed);
      else setAsked({ action, press: pressed, has });
    },
  };
}
type KeyChoice = ReturnType<typeof useKeyChoice>;

/** Every action and its key, to be looked up and changed in this browser. */
export function KeysDialog({ onClose }: { onClose: () => void }) {
  const choice = useKeyChoice();
  const mac = useMac();
  return (
    <Modal
      open
      title="Keyboard shortcuts"
      width={620}
      onCancel={onClose}
      footer={[
        <Button
          key="defaults"
          disabled={Object.keys(choice.changes).length === 0}
          onClick={() => changeKeys({})}
        >
          Restore defaults
        </Button>,
        <Button key="done" type="primary" onClick={onClose}>
          Done
        </Button>,
      ]}
    >
      <p className="small mute">Click a key to change it. Changes are kept in this browser.</p>
      <Table<ActionId>
        size="small"
        pagination={false}
        rowKey={(id) => id}
        dataSource={ACTION_IDS}
        scroll={{ y: 420 }}
        columns={columns(choice, mac)}
      />
    </Modal>
  );
}

const columns = (choice: KeyChoice, mac: boolean): TableColumnsType<ActionId> => [
  {
    title: 'Where',
    width: 96,
    render: (_, id) => ACTIONS[id].group,
    onCell: (id) => ({
      rowSpan: besides(id)[0] === id ? besides(id).length : 0,
      style: { verticalAlign: 'top' },
    }),
  },
  {
    title: 'Action',
    render: (_, id) => (
      <>
        {ACTIONS[id].name}
        {choice.asked?.action === id && (
          <Refused
            asked={choice.asked}
            mac={mac}
            onUse={() => choice.asked?.press && choice.give(id, choice.asked.press)}
          />
        )}
      </>
    ),
  },
  { title: 'Key', width: 150, render: (_, id) => <KeyOf id={id} choice={choice} mac={mac} /> },
  {
    title: <span className="sr-only">Change</span>,
    width: 96,
    render: (_, id) =>
      choice.changes[id] !== undefined ? (
        <Button size="small" type="link" onClick={() => choice.restore(id)}>
          Restore
        </Button>
      ) : null,
  },
];

function KeyOf({ id, choice, mac }: { id: ActionId; choice: KeyChoice; mac: boolean }) {
  const { changes, listening, listen, leave, press } = choice;
  const keys = keysOf(id, changes);
  return (
    <Button
      size="small"
      aria-label={`Key for ${ACTIONS[id].group}: ${ACTIONS[id].name}`}
      onClick={() => listen(id)}
      onBlur={() => leave(id)}
      onKeyDown={(event) => listening === id && press(id, event)}
    >
      {listening === id ? 'Press a key …' : keys.map((key) => keyText(key, mac)).join(' or ') || 'None'}
    </Button>
  );
}

function Refused({ asked, mac, onUse }: { asked: Asked; mac: boolean; onUse: () => void }) {
  const { press, has } = asked;
  if (press === null || has === null)
    return (
      <Alert
        type="warning"
        role="alert"
        title="Press a letter, digit, function key or arrow key, alone or with Ctrl, Alt or Shift."
      />
    );
  return (
    <Alert
      type="warning"
      role="alert"
      title={`${keyText(press, mac)} is the key for “${ACTIONS[has].name}”.`}
      action={
        <Button size="small" onClick={onUse}>
          Use it here
        </Button>
      }
    />
  );
}
