import { expect, it } from 'vitest';
import { agoText } from './ago';

const NOW = Date.parse('2026-11-28T12:00:00.000Z');
const before = (minutes: number) => new Date(NOW - minutes * 60_000).toISOString();

it.each([
  [-5, 'just now'],
  [0.9, 'just now'],
  [1, 'a minute ago'],
  [59.9, '59 minutes ago'],
  [60, 'an hour ago'],
  [47.9 * 60, '47 hours ago'],
  [48 * 60, '2 days ago'],
  [12.5 * 24 * 60, '12 days ago'],
])('says %d minutes as "%s"', (minutes, text) => {
  expect(agoText(before(minutes), NOW)).toBe(text);
});
