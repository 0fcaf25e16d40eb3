import { orm } from './db/orm';
import { queue } from './jobs/queue';
import { sweep, sweepText } from './sweep';

/** `npm run sweep`: one sweep, told on standard output. `--look` removes nothing. */
console.log(sweepText(await sweep(!process.argv.includes('--look'))));
await (await queue()).stop({ graceful: false });
await (await orm()).close(true);
process.exit(0);
