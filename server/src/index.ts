export { arrayLiteral, copyIn, copyOut } from './db/copy.ts';
export { connect, type Db, inTransaction, type Tx } from './db/connect.ts';
export { migrate } from './db/migrate.ts';
export { questionSql } from './db/sql/questionSql.ts';
export { rebuildShelf, refreshShelf, staleShelf } from './db/shelf.ts';
export { FileStore } from './pictures/fileStore.ts';
export { type ServerOptions, startServer, type RunningServer } from './startServer.ts';
export { type Engine } from './outlets/handOver.ts';
export { readShop } from './asked/names.ts';
