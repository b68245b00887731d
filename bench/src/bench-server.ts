import { startServer } from '@ivory/server';

/** The server that is measured: address on its first line of output, ends at SIGTERM. */
const [databaseUrl, filesFolder, web] = process.argv.slice(2);
const server = await startServer({
  databaseUrl: databaseUrl!,
  filesFolder: filesFolder!,
  storefront: 'http://127.0.0.1:1',
  web: web!,
  port: 0,
});
process.stdout.write(`${server.address}\n`);
process.once('SIGTERM', () => void server.close().then(() => process.exit(0)));
