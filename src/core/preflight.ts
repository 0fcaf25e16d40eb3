import { codecString } from './codec-string';
import { type Problem, problemOf } from './problem';
import type { Rig } from './rig';
import { type Room, roomText } from './room';
import { fitWithin, type Size, sizeText } from './sizes';
import { TRACK_NAMES, type TrackKind } from './take';

/** One thing that is known about a rig on this machine before anything is recorded. */
export type Finding = {
  weight: 'good' | 'warn' | 'stop';
  sentence: string;
  /** What to do about it. */
  fix?: string;
  /** The choice it is about. */
  about: TrackKind | 'browser' | 'storage';
};

/** What is known of a source besides the rig. */
export type SourceState = {
  state: 'absent' | 'opening' | 'open' | 'failed';
  problem?: Problem;
  remark?: string;
  /** Size of what arrives, when anything did. */
  size?: Size;
};

export type Facts = {
  browser: Problem | null;
  sources: Partial<Record<TrackKind, SourceState>>;
  /** How long each store takes this rig at its highest rate; null while it is not known. */
  room: { browser: Room | null; server: Room | null };
};

/**
 * Everything worth saying about a rig with these sources, the gravest first. Empty is never returned: a rig that is ready
 * says so.
 */
export function preflight(rig: Rig, facts: Facts): Finding[] {
  const findings: Finding[] = [];
  if (facts.browser)
    findings.push({
      weight: 'stop',
      sentence: facts.browser.message,
      fix: facts.browser.hint,
      about: 'browser',
    });
  for (const [role, source] of Object.entries(facts.sources) as [TrackKind, SourceState][]) {
    const grave = role === 'screen' ? 'stop' : 'warn';
    if (source.state === 'failed' && source.problem)
      findings.push({
        weight: grave,
        sentence: `${TRACK_NAMES[role]}: ${source.problem.message}`,
        fix: source.problem.hint,
        about: role,
      });
    if (source.state === 'opening' && role !== 'screen')
      findings.push({
        weight: 'warn',
        sentence: `${TRACK_NAMES[role]} is being opened …`,
        fix: 'One that comes late joins the take then.',
        about: role,
      });
    if (source.remark) findings.push({ weight: 'warn', sentence: source.remark, about: role });
  }
  const screen = facts.sources.screen;
  if (!facts.browser && (!screen || screen.state === 'absent'))
    findings.push({
      weight: 'stop',
      sentence: 'Nothing is aimed at yet.',
      fix: 'Choose what is shown.',
      about: 'screen',
    });
  if (screen?.size) findings.push(...pictureFindings(rig, screen.size));
  findings.push(...roomFindings(facts.room));
  if (!rig.voice)
    findings.push({
      weight: 'warn',
      sentence: 'No voice will be recorded.',
      fix: 'Choose a microphone.',
      about: 'voice',
    });
  const order = { stop: 0, warn: 1, good: 2 };
  findings.sort((a, b) => order[a.weight] - order[b.weight]);
  if (findings.length === 0) findings.push({ weight: 'good', sentence: 'Ready to record.', about: 'screen' });
  return findings;
}

function roomFindings({ browser, server }: Facts['room']): Finding[] {
  const findings: Finding[] = [];
  if (browser && browser.state !== 'enough')
    findings.push({
      weight: browser.state === 'none' ? 'stop' : 'warn',
      sentence:
        browser.state === 'none'
          ? 'The browser’s storage has no room for a recording.'
          : `The browser’s storage has room for only ${roomText(browser)}.`,
      fix: 'Free some space on this disk.',
      about: 'storage',
    });
  // A take waits in the browser when the server has no room.
  if (server && server.state !== 'enough')
    findings.push({
      weight: 'warn',
      sentence:
        server.state === 'none'
          ? 'The studio’s disk is full: a take will stay in this browser.'
          : `The studio’s disk has room for only ${roomText(server)}.`,
      fix: 'Free some space on the studio’s disk.',
      about: 'storage',
    });
  return findings;
}

function pictureFindings(rig: Rig, source: Size): Finding[] {
  const picture = fitWithin(source, rig.picture.box ?? source);
  try {
    codecString(rig.picture.codec, picture, rig.picture.frameRate, rig.picture.bitrateKbps ?? 1000);
  } catch (error) {
    const { message, hint } = problemOf(error);
    return [{ weight: 'stop', sentence: message, fix: hint, about: 'screen' }];
  }
  if (picture.scale === 1) return [];
  const percent = Math.round(picture.scale * 100);
  return [
    {
      weight: 'warn',
      sentence: `Small letters will be softer: the picture is scaled to ${percent} %.`,
      fix: `One to one is ${sizeText(source)}; or make the window smaller.`,
      about: 'screen',
    },
  ];
}
