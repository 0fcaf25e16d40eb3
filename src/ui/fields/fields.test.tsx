// @vitest-environment jsdom

import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { completeBrowser } from '../../../tests/support/jsdom';
import { PlaceField } from '../player/place-field';
import { NumberInput, Pebbles } from './choices';
import { LengthField } from './length-field';
import { ReasonsContext } from './reasons';

beforeAll(completeBrowser);
afterEach(cleanup);

describe('a length', () => {
  const show = (value: number | null) => {
    const onChange = vi.fn();
    const view = render(<LengthField label="Length" value={value} onChange={onChange} />);
    return { onChange, view, field: screen.getByLabelText<HTMLInputElement>('Length') };
  };

  it('is committed on Enter and when the field is left, and not while it is typed', async () => {
    const { onChange, field } = show(90);
    expect(field.value).toBe('1:30');
    await userEvent.clear(field);
    await userEvent.type(field, '2:05');
    expect(onChange).not.toHaveBeenCalled();
    await userEvent.keyboard('{Enter}');
    expect(onChange).toHaveBeenLastCalledWith(125);
    await userEvent.clear(field);
    await userEvent.type(field, '45');
    await userEvent.tab();
    expect(onChange).toHaveBeenLastCalledWith(45);
  });

  it('says what is no length, keeps what was there and calls nobody', async () => {
    const { onChange, field } = show(90);
    for (const wrong of ['soon', '0:00', '1:75', '25:00:00', '']) {
      await userEvent.clear(field);
      if (wrong) await userEvent.type(field, wrong);
      await userEvent.keyboard('{Enter}');
      expect(screen.getByRole('alert').textContent, wrong).toContain('Enter a length from 0:01 to 24:00:00.');
      expect(field.value).toBe('1:30');
    }
    expect(onChange).not.toHaveBeenCalled();
  });

  it('follows a value that comes from elsewhere', () => {
    const { view, field } = show(90);
    view.rerender(<LengthField label="Length" value={60} onChange={() => undefined} />);
    expect(field.value).toBe('1:00');
  });
});

describe('a number', () => {
  it('is told once it is allowed; what is not says so and changes nothing', async () => {
    const onChange = vi.fn();
    render(<NumberInput label="Bitrate" value={2000} min={100} max={8000} onChange={onChange} />);
    const field = screen.getByLabelText<HTMLInputElement>('Bitrate');
    await userEvent.clear(field);
    await userEvent.type(field, '9000{Enter}');
    expect(onChange).not.toHaveBeenCalled();
    expect(field.getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByRole('alert').textContent).toMatch(/100.*8000/);
    await userEvent.clear(field);
    await userEvent.type(field, '3000{Enter}');
    expect(onChange).toHaveBeenCalledExactlyOnceWith(3000);
    expect(field.getAttribute('aria-invalid')).toBe('false');
  });
});

describe('a choice', () => {
  it('shows why its value is what it is, for as long as somebody gives a reason', () => {
    const field = (
      <Pebbles
        name="Codec"
        value="h264"
        options={[
          { value: 'h264', label: 'H.264' },
          { value: 'av1', label: 'AV1' },
        ]}
        onChange={() => undefined}
        path="picture.codec"
      />
    );
    const view = render(
      <ReasonsContext.Provider value={{ 'picture.codec': 'Plays everywhere.' }}>
        {field}
      </ReasonsContext.Provider>,
    );
    expect(screen.getByText('Plays everywhere.')).toBeTruthy();
    view.rerender(<ReasonsContext.Provider value={{}}>{field}</ReasonsContext.Provider>);
    expect(screen.queryByText('Plays everywhere.')).toBeNull();
  });
});

describe('a place in a film', () => {
  it('is typed to go there, within the film alone; Escape goes nowhere', async () => {
    const onSeek = vi.fn();
    const rate = { num: 30, den: 1 };
    render(<PlaceField positionUs={1_010_892} durationUs={10_000_000} rate={rate} onSeek={onSeek} />);
    const field = screen.getByLabelText<HTMLInputElement>('Time code');
    expect(field.value).toBe('0:01:00');
    const type = async (text: string) => {
      await userEvent.click(field);
      await userEvent.clear(field);
      await userEvent.type(field, text);
    };
    await type('0:04:15{Enter}');
    expect(onSeek).toHaveBeenCalledExactlyOnceWith(4_500_000);
    await type('0:12:00{Enter}');
    await type('0:05:00{Escape}');
    expect(onSeek).toHaveBeenCalledTimes(1);
    expect(field.value).toBe('0:01:00');
    // What is shown already is the start of that frame, wherever within it the place is.
    await userEvent.type(field, '{Enter}');
    expect(onSeek).toHaveBeenLastCalledWith(1_000_000);
  });
});
