import { parseArgs } from 'node:util';
import { bytesText } from '@/core/base/figures';
import { TakeId } from '@/core/base/ids';
import { keptUntil } from '@/core/keeping/trash';
import { orm } from '../db/orm';
import { queue } from '../jobs/queue';
import { emptyTrash, listTrash, putBack, type TrashItem } from '../keeping/trash';
import { adoptTake, adoptText } from './adopt';
import { sweep, sweepText } from './sweep';

/** `npm run sweep`: one sweep, or what is in the trash. `scripts/sweep.mjs` says what the options mean. */
const { values } = parseArgs({
  options: {
    look: { type: 'boolean', default: false },
    trash: { type: 'boolean', default: false },
    restore: { type: 'string' },
    delete: { type: 'string' },
  },
});

const line = ({ name, from, reason, movedAt, bytes, recording }: TrashItem) =>
  `${name}  ${from}, ${bytesText(bytes)}: ${reason}; ${
    recording
      ? 'a recording, kept until you delete it'
      : `kept until ${keptUntil(new Date(movedAt)).toISOString().slice(0, 10)}`
  }`;

/** @param which a name in the trash, or `all` */
async function chosen(which: string): Promise<TrashItem[]> {
  const items = await listTrash();
  const named = which === 'all' ? items : items.filter(({ name }) => name === which);
  if (named.length === 0)
    console.log(which === 'all' ? 'The trash is empty.' : `${which} is not in the trash.`);
  return named;
}

async function restore(which: string): Promise<void> {
  for (const item of await chosen(which)) {
    try {
      const path = await putBack(item);
      console.log(`restored: ${path}`);
      // A folder without rows would be moved aside again by the next sweep.
      const take = TakeId.safeParse(path.split('/').pop());
      if (item.from.startsWith('takes/') && take.success)
        console.log(adoptText({ adopted: [await adoptTake(take.data)], problem: null }, true));
    } catch (error) {
      console.log(`not restored: ${error instanceof Error ? error.message : error}`);
    }
  }
}

if (values.restore !== undefined) await restore(values.restore);
else if (values.delete !== undefined) {
  const names = (await chosen(values.delete)).map(({ name }) => name);
  for (const item of await emptyTrash(names)) console.log(`deleted: ${line(item)}`);
} else if (values.trash) {
  const items = await listTrash();
  console.log(items.length > 0 ? items.map(line).join('\n') : 'The trash is empty.');
} else console.log(sweepText(await sweep(!values.look), !values.look));
await (await queue()).stop({ graceful: false });
await (await orm()).close(true);
process.exit(0);
