import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PRACTICE_RIG, Rig } from '../rig/rig';
import { broughtRig, broughtTitle, fileKind, svgDanger } from './brought-in';

const bytes = (text: string) => Uint8Array.from(text, (character) => character.charCodeAt(0));

describe('what a file is', () => {
  it.each([
    ['%PDF-1.7\n…', 'pdf'],
    ['\x89PNG\r\n\x1a\n', 'still'],
    ['\xff\xd8\xff\xe0..JFIF', 'still'],
    ['RIFF\x10\x00\x00\x00WEBPVP8 ', 'still'],
    ['<svg xmlns="http://www.w3.org/2000/svg"/>', 'svg'],
    ['<?xml version="1.0"?>\n<!-- drawn -->\n<svg/>', 'svg'],
    ['RIFF\x10\x00\x00\x00WAVEfmt ', 'media'],
    ['\x1aE\xdf\xa3', 'media'],
    ['<html><body><svg/></body></html>', 'media'],
    ['', 'media'],
  ])('is seen from its first bytes: %j is %s', (head, kind) => {
    expect(fileKind(bytes(head))).toBe(kind);
  });
});

describe('an SVG', () => {
  it.each([
    '<svg><rect width="3" height="2" fill="url(#a)"/><use href="#b"/></svg>',
    '<svg><image href="data:image/png;base64,AAAA"/></svg>',
    '<svg><text>on the shelf = 3</text></svg>',
  ])('that only draws is taken: %s', (text) => {
    expect(svgDanger(text)).toBeNull();
  });

  it.each([
    ['<svg><script>alert(1)</script></svg>', 'script'],
    ['<svg onload="alert(1)"/>', 'event handler'],
    ['<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg>&x;</svg>', 'entity'],
    ['<svg><image xlink:href="file:///etc/passwd"/></svg>', 'another file'],
    ['<svg><image href="https://fernhollow.example/a.png"/></svg>', 'another file'],
    ['<svg><style>@import "x.css";</style></svg>', 'another file'],
    ['<svg><rect fill="url(https://fernhollow.example/a)"/></svg>', 'another file'],
    ['<svg><foreignObject><p>hello</p></foreignObject></svg>', 'foreign content'],
  ])('that runs or fetches anything is refused: %s', (text, why) => {
    expect(svgDanger(text)).toContain(why);
  });
});

describe('a take of a file', () => {
  it('is called like its file, without the ending; the name is fit for any page', () => {
    expect(broughtTitle('Sowing plan.v2.pdf')).toBe('Sowing plan.v2');
    expect(broughtTitle('.png')).toBe('Imported file');
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (name) => {
        const title = broughtTitle(name);
        expect(title.length).toBeGreaterThan(0);
        expect(title.length).toBeLessThanOrEqual(200);
        expect(title).toBe(title.trim());
        expect(/\p{Cc}/u.test(title)).toBe(false);
      }),
    );
  });

  it('has a rig that is one, with what is in the file and nothing done to its sound', () => {
    for (const picture of [true, false])
      for (const sound of [true, false]) {
        const rig = broughtRig(PRACTICE_RIG, { picture, sound }, picture ? { num: 25, den: 1 } : null);
        expect(Rig.parse(rig)).toEqual(rig);
        expect(rig.picture.source.from === 'none').toBe(!picture);
        expect([rig.camera, rig.appSound, rig.voice === null]).toEqual([null, null, !sound]);
        if (picture) expect(rig.picture.frameRate).toEqual({ num: 25, den: 1 });
        if (rig.voice) expect([rig.voice.gainDb, rig.voice.delayMs]).toEqual([0, 0]);
      }
  });
});
