// Part of npm test: the share of ordinary controls that are Ant Design's, outside what is drawn by us. Uses nothing but Node.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { command, Plain } from './steps.mjs';

const LEAST_SHARE = 0.95;

/** What we draw ourselves: the flow with its table, the time strip, handles on pictures. */
const OURS = [
  'src/ui/set-up/flow/',
  'src/ui/edit/strip-handles.tsx',
  'src/ui/set-up/camera-editor.tsx',
  'src/ui/set-up/region-editor.tsx',
  'src/ui/set-up/panels/practice-windows.tsx',
];

/** Elements that arrange others, and are none. */
const ARRANGES = ['App', 'ConfigProvider', 'Flex', 'Space'];

const RAW = /<(button|input|select|textarea|table|details|dialog)\b/g;

/**
 * Counts the controls of one component.
 * @param {string} source
 * @returns {{ antd: number, raw: string[] }} elements of the component library, and the raw elements that it has a control for
 */
export function countControls(source) {
  const imported = [...source.matchAll(/import \{([^}]*)\} from 'antd';/g)].flatMap(([, names = '']) =>
    names.split(',').flatMap((name) => {
      const [from = '', as = from] = name
        .trim()
        .replace(/^type .*/, '')
        .split(' as ');
      return as.trim() && !ARRANGES.includes(from.trim()) ? [as.trim()] : [];
    }),
  );
  const antd = imported.reduce(
    (sum, name) => sum + [...source.matchAll(new RegExp(`<${name}(\\.\\w+)?[\\s>/<]`, 'g'))].length,
    0,
  );
  return { antd, raw: [...source.matchAll(RAW)].map(([, tag = '']) => tag) };
}

/** @param {string} folder @returns {string[]} */
const components = (folder) =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.tsx'))
    .map((name) => join(folder, name));

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href)
  command(async () => {
    let antd = 0;
    /** @type {string[]} */
    const raw = [];
    for (const file of [...components('src/ui'), ...components('src/app')]) {
      if (OURS.some((ours) => file.startsWith(ours))) continue;
      const counted = countControls(readFileSync(file, 'utf8'));
      antd += counted.antd;
      raw.push(...counted.raw.map((tag) => `${file}: <${tag}>`));
    }
    const share = antd / Math.max(1, antd + raw.length);
    console.log(
      `Controls from Ant Design: ${antd} of ${antd + raw.length} (${(share * 100).toFixed(1)} %), at least ${LEAST_SHARE * 100} % wanted.`,
    );
    if (share < LEAST_SHARE) throw new Plain(['Too many raw elements:', ...raw].join('\n  '));
  });
