// npm run sweep: moves aside what killed processes left in a data folder, and shows what was moved aside.
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { program } from './programs.mjs';
import { runningStudio } from './running.mjs';
import { command, run } from './steps.mjs';

const USAGE = `npm run sweep -- [--data DIR] [--look | --trash | --restore [NAME] | --delete NAME]
  --data DIR        the data folder of a running studio (.data)
  --look            only report what would be moved
  --trash           list what sweeps have moved to trash/
  --restore [NAME]  put one thing back, or everything; takes are listed again
  --delete NAME     delete one thing for good, or all`;

command(async () => {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: {
      data: { type: 'string', default: '.data' },
      look: { type: 'boolean', default: false },
      trash: { type: 'boolean', default: false },
      restore: { type: 'boolean', default: false },
      delete: { type: 'string' },
      help: { type: 'boolean', default: false },
    },
  });
  if (values.help) {
    console.log(USAGE);
    return;
  }
  const env = runningStudio(values.data);
  process.chdir(resolve(dirname(fileURLToPath(import.meta.url)), '..'));
  const what = values.restore
    ? [`--restore=${positionals[0] ?? 'all'}`]
    : values.delete !== undefined
      ? [`--delete=${values.delete}`]
      : values.trash
        ? ['--trash']
        : values.look
          ? ['--look']
          : [];
  await run('node', [...program('maintenance/sweep-by-hand'), ...what], {
    show: true,
    env,
    failure: 'The sweep failed.',
  });
});
