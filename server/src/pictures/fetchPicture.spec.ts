import { calls } from '@ivory/contract';
import { createServer, type RequestListener, type Server } from 'node:http';
import { type AddressInfo } from 'node:net';
import sharp from 'sharp';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';
import { isPublic } from './fetchPicture.ts';

describe('a picture by its address', () => {
  let server: Server;
  let host: string;
  let shopServer: TestServer;
  let picture: Buffer;
  const answers: Record<string, RequestListener> = {
    '/pen.png': (_request, response) => response.end(picture),
    '/on': (_request, response) => response.writeHead(302, { location: '/pen.png' }).end(),
    '/round': (_request, response) => response.writeHead(302, { location: '/round' }).end(),
    '/into': (_request, response) => response.writeHead(301, { location: 'http://127.0.0.1:9/x.png' }).end(),
    '/file': (_request, response) => response.writeHead(301, { location: 'file:///etc/passwd' }).end(),
    '/gone': (_request, response) => response.writeHead(404).end(),
    // It says that much more will come, and breaks off.
    '/short': (_request, response) => {
      response.writeHead(200, { 'content-length': String(picture.length * 2) });
      response.write(picture);
      setTimeout(() => response.destroy(), 50);
    },
    '/endless': (_request, response) => {
      const piece = Buffer.alloc(256 * 1024, 1);
      const more = () => {
        while (!response.destroyed && response.write(piece));
        response.once('drain', more);
      };
      more();
    },
  };
  beforeAll(async () => {
    picture = await sharp({ create: { width: 20, height: 20, channels: 3, background: '#123456' } })
      .png()
      .toBuffer();
    server = createServer((request, response) => answers[request.url!]!(request, response));
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    host = `127.0.0.1:${(server.address() as AddressInfo).port}`;
    shopServer = await startTestServer({ fetchesFrom: [host] });
  });
  afterAll(async () => {
    await shopServer.close();
    server.closeAllConnections();
    await new Promise((closed) => server.close(closed));
  });

  const fetched = (address: string) => shopServer.call(calls.fetchPicture, { body: { address } });
  const why = async (address: string) => (await refusalOf(fetched(address))).title;

  it('is taken from where its address leads', async () => {
    const { picture: kept, isNew } = await fetched(`http://${host}/on`);
    expect([kept.name, kept.format, kept.width, isNew]).toEqual(['pen.png', 'png', 20, true]);
    expect((await fetched(`http://${host}/pen.png`)).isNew)
      .withContext('the same bytes')
      .toBeFalse();
  });

  it('is refused where it leads into a private network, by whatever form of the address', async () => {
    for (const address of [
      'http://127.0.0.1:9/x.png',
      'http://127.1/x.png',
      'http://2130706433/x.png',
      'http://0x7f000001/x.png',
      'http://localhost:9/x.png',
      'http://[::1]:9/x.png',
      'http://[::ffff:127.0.0.1]/x.png',
      'http://169.254.169.254/latest/meta-data',
      'http://10.0.0.1/x.png',
      `http://${host}/into`,
    ])
      expect(await why(address))
        .withContext(address)
        .toContain('private network');
  });

  it('is refused where it is no address, gone, led round, broken off or without end', async () => {
    expect(await why('ftp://example.org/x.png')).toContain('no address on the web');
    expect(await why(`http://${host}/file`)).toContain('no address on the web');
    expect(await why(`http://${host}/gone`)).toContain('404');
    expect(await why(`http://${host}/round`)).toContain('too often');
    expect(await why(`http://${host}/short`)).toContain('broke off');
    expect(await why(`http://${host}/endless`)).toContain('larger than 10 MB');
  });

  it('tells public addresses from others (IANA special-purpose registries, RFC 6890)', () => {
    expect(['8.8.8.8', '2606:4700:4700::1111'].map(isPublic)).toEqual([true, true]);
    const closed = [
      '192.168.1.1',
      '172.16.0.1',
      '100.64.0.1',
      '0.0.0.0',
      '224.0.0.1',
      '255.255.255.255',
      'fe80::1',
      'fc00::1',
    ];
    expect(closed.filter(isPublic)).toEqual([]);
  });
});
