import { MikroORM } from '@mikro-orm/postgresql';
import { config } from '../config';
import { ormOptions } from './orm';

/** Any number; the same in every process that migrates, so that two never do it at once. */
const MIGRATION_LOCK = 462_001;

const db = await MikroORM.init({ ...ormOptions(config().databaseUrl), pool: { min: 1, max: 2 } });
const connection = db.em.getConnection();
try {
  await connection.execute(`select pg_advisory_lock(${MIGRATION_LOCK})`);
  await db.getMigrator().up();
} finally {
  await db.close(true);
}
