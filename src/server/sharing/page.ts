import { bytesText, clockText } from '@/core/base/figures';
import { ACTION_IDS, ACTIONS, type ActionId, keyText } from '@/core/views/keys';
import { shuttled } from '@/core/views/shuttle';
import type { SharedMedia } from './shared-media';

const escaped = (text: string): string =>
  text.replace(/[&<>"']/g, (character) => `&#${character.codePointAt(0)};`);

const STYLE = `
@font-face { font-family: Studio; src: url(type.woff2) format('woff2'); font-weight: 200 800; font-display: swap }
:root { color-scheme: light dark; --ground: #f6f2e9; --text: #17292b; --soft: #4c5d5a; --line: #ddd5c3; --sunken: #14211f }
@media (prefers-color-scheme: dark) { :root { --ground: #0f1b1c; --text: #eef3ec; --soft: #b9c8c2; --line: #2f494b } }
* { box-sizing: border-box }
body { margin: 0; background: var(--ground); color: var(--text); font: 16px/1.5 Studio, system-ui, sans-serif }
main { max-width: 1120px; margin: 0 auto; padding: 28px 24px 40px }
h1 { font-size: 26px; line-height: 1.25; font-weight: 650; margin: 0 0 4px; text-wrap: balance }
p { margin: 0; color: var(--soft) }
.frame { margin: 18px 0 14px; border-radius: 10px; overflow: hidden; background: var(--sunken); aspect-ratio: 16 / 9; display: grid; place-items: center }
video { width: 100%; height: 100%; display: block; background: var(--sunken) }
video:focus-visible { outline: 3px solid #6cc3b4; outline-offset: -3px }
.frame p { color: #eef3ec; padding: 24px; text-align: center }
dl { display: flex; flex-wrap: wrap; gap: 6px 22px; margin: 0; font-size: 14px; color: var(--soft) }
dl div { display: flex; gap: 7px; align-items: center }
dt, dd { margin: 0 }
kbd { font: inherit; font-size: 12.5px; padding: 0 6px; border: 1px solid var(--line); border-bottom-width: 2px; border-radius: 5px; color: var(--text) }
ol { margin: 0 0 14px; padding: 0; list-style: none; columns: 280px }
ol button { font: inherit; font-size: 15px; display: flex; gap: 10px; width: 100%; padding: 4px 8px; text-align: start; color: var(--text); background: none; border: 0; border-radius: 6px; cursor: pointer }
ol button:hover { background: color-mix(in srgb, var(--text) 8%, transparent) }
ol button:focus-visible { outline: 3px solid #2a8577; outline-offset: -2px }
ol span { color: var(--soft); font-variant-numeric: tabular-nums; min-width: 3.2em }
.note { font-size: 14px; margin-bottom: 12px }
.note:empty { display: none }
`;

/** What keys do on this page, as on a take's own. */
const PLAYED = ACTION_IDS.filter((action) => (ACTIONS[action].places as readonly string[]).includes('take'));

/** Frames, five seconds and the shuttle by key, as the studio's own player has them; the rest is the browser's player. */
const SCRIPT = `
const video = document.querySelector('video');
const note = document.querySelector('.note');
if (video) {
  const shuttled = ${shuttled.toString()};
  let speed = 0, backwards, shown = 0, presented = 0, frame = 1 / 30;
  const on = (_, { mediaTime, presentedFrames }) => {
    // Two frames that were painted one after the other are a frame apart.
    if (speed === 1 && presentedFrames === presented + 1 && mediaTime > shown) frame = mediaTime - shown;
    shown = mediaTime;
    presented = presentedFrames;
    video.requestVideoFrameCallback(on);
  };
  video.requestVideoFrameCallback?.(on);
  // Until a seek's frame is painted, the next key goes on from where it leads.
  const to = (s) => { shown = video.currentTime = Math.max(0, Math.min(video.duration || 0, s)); };
  const shuttle = (next) => {
    clearInterval(backwards);
    speed = next;
    if (next > 0) { video.playbackRate = next; video.play(); }
    else video.pause();
    if (next < 0) backwards = setInterval(() => video.currentTime > 0 ? to(video.currentTime + next / 10) : shuttle(0), 100);
  };
  video.addEventListener('play', () => { if (speed <= 0) shuttle(1); });
  video.addEventListener('pause', () => { if (speed > 0) shuttle(0); });
  // The middle of the next frame, or of the one before: its edges are rounded.
  const step = (by) => { shuttle(0); to(by > 0 ? Math.max(video.currentTime, shown + frame / 2) + frame : shown - frame / 2); shown = Math.max(0, shown - frame / 2); };
  const acts = {
    'play.toggle': () => shuttle(speed === 0 ? 1 : 0),
    'play.back': () => shuttle(shuttled(speed, 'j')), 'play.stop': () => shuttle(0), 'play.forward': () => shuttle(shuttled(speed, 'l')),
    'play.frame-back': () => step(-1), 'play.frame-on': () => step(1),
    'play.jump-back': () => to(video.currentTime - 5), 'play.jump-on': () => to(video.currentTime + 5),
    'play.start': () => to(0), 'play.end': () => to(video.duration),
  };
  for (const chapter of document.querySelectorAll('ol button'))
    chapter.addEventListener('click', () => { to(Number(chapter.dataset.at)); video.play(); });
  const keys = ${JSON.stringify(Object.fromEntries(PLAYED.flatMap((action) => ACTIONS[action].keys.map((key) => [key, action]))))};
  addEventListener('keydown', (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const act = acts[keys[(event.shiftKey ? 'shift+' : '') + (event.key === ' ' ? 'space' : event.key.toLowerCase())]];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  }, true);
  video.addEventListener('error', () => { if (note) note.textContent = 'This browser cannot play it yet: it plays as soon as the finished video is there.'; });
}
const state = document.body.dataset.state;
if (state !== 'whole') {
  const look = async () => {
    const now = await fetch('state').then((r) => r.json()).catch(() => ({ state }));
    if (now.state === state || (video && !video.paused && !video.error)) setTimeout(look, 1500);
    else location.reload();
  };
  setTimeout(look, 1500);
}
`;

function html(nonce: string, title: string, body: string, state: string): string {
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="robots" content="noindex, nofollow">
<title>${escaped(title)}</title>
<style nonce="${nonce}">${STYLE}</style>
</head>
<body data-state="${state}">
<main>
${body}
</main>
<script nonce="${nonce}">${SCRIPT}</script>
</body>
</html>`;
}

/** As they ship: nobody changes keys on somebody else's page. */
const keys = (...actions: ActionId[]): string =>
  actions.map((action) => keyText(ACTIONS[action].keys[0])).join(' ');
const KEYS: [string, string][] = [
  [keys('play.toggle'), 'play, pause'],
  [keys('play.frame-back', 'play.frame-on'), 'one frame'],
  [keys('play.jump-back', 'play.jump-on'), '5 seconds'],
  [keys('play.back', 'play.stop', 'play.forward'), 'backwards, stop, forwards; again for double speed'],
];

/** The page of a link: a title, the video, its keys. */
export function sharePage(nonce: string, { title, state, bytes, chapters }: SharedMedia): string {
  const said = {
    waiting: 'It is on its way: this page shows it as soon as it has arrived.',
    first: 'A first version, as recorded. The finished video follows automatically.',
    whole: '',
  }[state];
  const frame =
    state === 'waiting'
      ? `<p role="status">${said}</p>`
      : `<video controls playsinline preload="metadata" tabindex="0" src="video" aria-label="${escaped(title)}"></video>`;
  const keys = KEYS.map(([key, what]) => `<div><dt><kbd>${key}</kbd></dt><dd>${what}</dd></div>`).join('');
  const steps = chapters
    .map(
      (chapter) =>
        `<li><button type="button" data-at="${chapter.startUs / 1e6}"><span>${clockText(chapter.startUs)}</span>${escaped(chapter.title)}</button></li>`,
    )
    .join('');
  return html(
    nonce,
    title,
    `<h1>${escaped(title)}</h1>
<p>${state === 'whole' ? bytesText(bytes) : '&nbsp;'}</p>
<div class="frame">${frame}</div>
<p class="note" role="status">${state === 'first' ? said : ''}</p>
${steps ? `<ol aria-label="Chapters">${steps}</ol>` : ''}
${state === 'waiting' ? '' : `<dl>${keys}</dl>`}`,
    state,
  );
}

export const nothingPage = (nonce: string): string =>
  html(
    nonce,
    'Nothing here',
    '<h1>This link does not work.</h1>\n<p>The link was revoked, or it was not copied completely. Ask the person who sent it.</p>',
    'whole',
  );
