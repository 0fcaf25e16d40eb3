import { MikroORM } from '@mikro-orm/postgresql';
import { pairingSentence } from '@/core/keeping/pairing';
import { orm, ormOptions } from '../db/orm';
import { countPairing } from '../keeping/pairing';
import { config } from '../process/config';

/** Any number; the same in every process that migrates, so that two never do it at once. */
const MIGRATION_LOCK = 462_001;

const db = await MikroORM.init({ ...ormOptions(config().databaseUrl), pool: { min: 1, max: 2 } });
const connection = db.em.getConnection();
try {
  await connection.execute(`select pg_advisory_lock(${MIGRATION_LOCK})`);
  await db.getMigrator().up();
  const differs = pairingSentence(await countPairing());
  // The start command prints it.
  if (differs) console.log(`${differs} Nothing is removed. To list its takes again, run npm run adopt.`);
} finally {
  await (await orm()).close(true);
  await db.close(true);
}
