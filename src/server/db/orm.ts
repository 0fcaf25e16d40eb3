import { Migrator } from '@mikro-orm/migrations';
import { MikroORM, type Options } from '@mikro-orm/postgresql';
import { config } from '../process/config';
import { ENTITIES } from './entities';
import { MIGRATIONS } from './migrations';

export function ormOptions(databaseUrl: string): Options {
  return {
    clientUrl: databaseUrl,
    entities: ENTITIES,
    extensions: [Migrator],
    discovery: { disableDynamicFileAccess: true },
    metadataCache: { enabled: false },
    migrations: { migrationsList: MIGRATIONS, snapshot: false, transactional: true, silent: true },
    forceUtcTimezone: true,
  };
}

const shared = globalThis as { __orm?: Promise<MikroORM> };

/** The process's one connection pool. Survives the module reloads of development. */
export function orm(): Promise<MikroORM> {
  shared.__orm ??= MikroORM.init(ormOptions(config().databaseUrl));
  return shared.__orm;
}

/** A fresh unit of work; one a request or job. */
export const unitOfWork = async () => (await orm()).em.fork();
export type UnitOfWork = Awaited<ReturnType<typeof unitOfWork>>;
