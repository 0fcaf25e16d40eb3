// npm run adopt: lists the takes again that lie in the media folder and that the database does not know.
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { program } from './programs.mjs';
import { runningStudio } from './running.mjs';
import { command, run } from './steps.mjs';

const USAGE = `npm run adopt -- [--data DIR] [--look] [--anyway]
  --data DIR   the data folder of a running studio (.data)
  --look       only report which takes would be listed again
  --anyway     accept a media folder without takes`;

command(async () => {
  const { values } = parseArgs({
    options: {
      data: { type: 'string', default: '.data' },
      look: { type: 'boolean', default: false },
      anyway: { type: 'boolean', default: false },
      help: { type: 'boolean', default: false },
    },
  });
  if (values.help) {
    console.log(USAGE);
    return;
  }
  const env = runningStudio(values.data);
  process.chdir(resolve(dirname(fileURLToPath(import.meta.url)), '..'));
  const options = [...(values.look ? ['--look'] : []), ...(values.anyway ? ['--anyway'] : [])];
  await run('node', [...program('maintenance/adopt-by-hand'), ...options], {
    show: true,
    env,
    failure: 'Adopting failed.',
  });
});
