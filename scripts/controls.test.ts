import { expect, test } from 'vitest';
import { countControls } from './controls.mjs';

test('counts the library’s elements by what a file imports from it, and raw elements by their tags', () => {
  const source = `
    import { Button, Radio, type InputRef, Select as List } from 'antd';
    import { Slider } from './slider';
    <Button>Go</Button><Radio.Group /><List<string> /><Slider /><button type="button" /><table></table><buttons />`;
  expect(countControls(source)).toEqual({ antd: 3, raw: ['button', 'table'] });
  expect(countControls('<Button />')).toEqual({ antd: 0, raw: [] });
});
