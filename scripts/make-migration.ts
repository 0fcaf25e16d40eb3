// Prints the SQL that brings a database with all present migrations to the present entities.
import { MikroORM } from '@mikro-orm/postgresql';
import { ormOptions } from '@/server/db/orm';

const db = await MikroORM.init(ormOptions(process.env.DATABASE_URL ?? ''));
if (process.argv.includes('--empty')) console.log(await db.schema.getCreateSchemaSQL({ wrap: false }));
else console.log(await db.schema.getUpdateSchemaSQL({ wrap: false }));
await db.close(true);
