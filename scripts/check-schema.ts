// Fails when the entities say something that the migrations have not made. The database must be migrated.
import { MikroORM } from '@mikro-orm/postgresql';
import { ormOptions } from '@/server/db/orm';

const db = await MikroORM.init(ormOptions(process.env.DATABASE_URL ?? ''));
const missing = await db.schema.getUpdateSchemaSQL({ wrap: false });
// The queue keeps its tables in a schema of its own and the migrator one table in ours.
const ours = missing
  .split('\n')
  .filter((line) => line.trim() !== '' && !/mikro_orm_migrations|pgboss/.test(line));
await db.close(true);
if (ours.length > 0) {
  console.error(ours.join('\n'));
  process.exit(1);
}
console.log('Entities and migrations agree.');
