import { type Moment } from '@ivory/core';
import { type Logger } from 'pino';
import { type Db } from '../db/connect.ts';
import { type WorkQueue } from '../jobs/queue.ts';
import { type FileStore } from '../pictures/fileStore.ts';
import { type Events } from './events.ts';
import { type Origins } from './onlyOurPages.ts';

/** What the routes work with. The clock is read here and nowhere deeper. */
export interface AppContext {
  readonly db: Db;
  readonly files: FileStore;
  readonly queue: WorkQueue;
  readonly events: Events;
  readonly person: { readonly id: string; readonly name: string };
  readonly storefront: string;
  readonly clock: () => Moment;
  readonly log: Logger;
  /** Where this server is reached. */
  readonly origins: Origins;
  /** Hosts of private networks from which pictures may be fetched all the same. */
  readonly fetchesFrom: readonly string[];
  /** The built web; without it only the HTTP interface is served. */
  readonly web?: string;
}
