import { openHouse } from '@ivory/server';

/** The server that is measured: address on its first line of output, ends at SIGTERM. */
const [databaseUrl, filesFolder, web] = process.argv.slice(2);
const house = await openHouse({
  databaseUrl: databaseUrl!,
  filesFolder: filesFolder!,
  storefront: 'http://127.0.0.1:1',
  web: web!,
  port: 0,
});
process.stdout.write(`${house.address}\n`);
process.once('SIGTERM', () => void house.close().then(() => process.exit(0)));
