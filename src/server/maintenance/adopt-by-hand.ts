import { orm } from '../db/orm';
import { queue } from '../jobs/queue';
import { adopt, adoptText } from './adopt';

/** `npm run adopt`: lists the takes again that lie in the media folder and that the database does not know. */
const apply = !process.argv.includes('--look');
console.log(adoptText(await adopt(apply, process.argv.includes('--anyway')), apply));
await (await queue()).stop({ graceful: false });
await (await orm()).close(true);
process.exit(0);
