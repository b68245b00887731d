import { calls, type KeptPicture } from '@ivory/contract';
import { crc32, deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { inTransaction } from '../db/connect.ts';
import { staleShelf } from '../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

/** A PNG (ISO/IEC 15948) that says it has so many pixels, and holds next to none of them. */
function emptyPng(width: number, height: number): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    sum.writeUInt32BE(crc32(body));
    return Buffer.concat([length, body, sum]);
  };
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header[8] = 8;
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(Buffer.alloc(1000))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

describe('pictures', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const drawn = (colour: string, width = 300, height = 200) =>
    sharp({ create: { width, height, channels: 3, background: colour } });
  const send = async (name: string, bytes: Uint8Array): Promise<KeptPicture> => {
    const response = await server.fetch('/api/pictures', {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream', 'x-file-name': encodeURIComponent(name) },
      body: bytes as BodyInit,
    });
    return (await response.json()) as KeptPicture;
  };
  const landHand = async () => server.land((await server.call(calls.getHandProof)).proof!.id);
  const bytesOf = async (path: string) => Buffer.from(await (await server.fetch(path)).arrayBuffer());

  it('are taken in every format that browsers have, told by their content, and kept once', async () => {
    const formats = {
      jpeg: await drawn('#804020').jpeg().toBuffer(),
      png: await drawn('#804021').png().toBuffer(),
      webp: await drawn('#804022').webp().toBuffer(),
      gif: await drawn('#804023').gif().toBuffer(),
      avif: await drawn('#804024').avif().toBuffer(),
    };
    for (const [format, bytes] of Object.entries(formats)) {
      const { picture, isNew } = await send(`Feder é.${format}`, bytes);
      expect([picture.format, picture.width, picture.height, picture.bytes, isNew]).toEqual([
        format,
        300,
        200,
        bytes.length,
        true,
      ]);
      expect(picture.name).toBe(`Feder é.${format}`);
      const again = await send('renamed.png', bytes);
      expect([again.isNew, again.picture.id, again.picture.name]).toEqual([false, picture.id, `Feder é.${format}`]);
      expect(await bytesOf(`/pictures/${picture.key}`)).toEqual(bytes);
    }
  });

  it('have square renditions with padding, the right way up', async () => {
    // Exif orientation 6 (CIPA DC-008): the first row is the right-hand side, so that it is shown upright at 200 × 300.
    const bytes = await drawn('#2040a0').jpeg().withMetadata({ orientation: 6 }).toBuffer();
    const { picture } = await send('turned.jpg', bytes);
    expect([picture.width, picture.height]).toEqual([200, 300]);
    for (const [name, size] of [
      ['-small', 160],
      ['', 500],
      ['-large', 1200],
    ] as const) {
      const rendition = sharp(await bytesOf(`/pictures/${picture.key}${name}.webp`));
      const { format, width, height } = await rendition.metadata();
      expect([format, width, height]).toEqual(['webp', size, size]);
      const { data, info } = await rendition.raw().toBuffer({ resolveWithObject: true });
      const at = (x: number, y: number) => [...data.subarray((y * info.width + x) * info.channels).subarray(0, 3)];
      expect(at(2, size / 2).every((value) => value > 250))
        .withContext('padding at the side')
        .toBeTrue();
      expect(at(size / 2, 2)[2]!)
        .withContext('no padding above')
        .toBeGreaterThan(120);
    }
    const { rows } = await server.db.pool.query('select size from rendition where picture_id = $1', [picture.id]);
    expect(rows.length).toBe(3);
    expect((await refusalOf(server.fetch(`/pictures/${picture.key}-161.webp`))).status).toBe(404);
    expect((await refusalOf(server.fetch('/pictures/..%2F..%2Fetc%2Fpasswd'))).status).toBe(404);
  });

  it('are made in all sizes before anybody asks, and follow the sizes that the shop sets', async () => {
    const { picture } = await send('soon.png', await drawn('#778899').png().toBuffer());
    const sizes = async () => {
      const { rows } = await server.db.pool.query<{ size: number }>(
        'select size from rendition where picture_id = $1 order by size',
        [picture.id],
      );
      return rows.map(({ size }) => size);
    };
    const { work } = await server.call(calls.listWork);
    await server.finished(work.find(({ kind }) => kind === 'pictures')!);
    expect(await sizes()).toEqual([160, 500, 1200]);
    const small = `/pictures/${picture.key}-small.webp`;
    const tag = (await server.fetch(small)).headers.get('etag')!;
    const again = await fetch(server.open.address + small, { headers: { 'if-none-match': tag } });
    expect(again.status).toBe(304);
    await server.land((await server.set('shop', '1', 'smallSide', '200')).id);
    const other = await server.fetch(small, { headers: { 'if-none-match': tag } });
    expect([other.status, (await sharp(await other.arrayBuffer()).metadata()).width]).toEqual([200, 200]);
    const refused = await refusalOf(server.set('shop', '1', 'smallSide', '9'));
    expect(refused.places?.[0]?.field).toBe('smallSide');
  });

  it('are refused by name, with the reason, when they are none', async () => {
    const jpeg = await drawn('#408020', 900, 900).jpeg({ quality: 100 }).toBuffer();
    const why = async (name: string, bytes: Uint8Array) => (await refusalOf(send(name, bytes))).title;
    expect(await why('drawing.svg', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'))).toContain('drawing.svg');
    expect(await why('drawing.png', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'))).toContain('is no JPEG');
    expect(await why('archive.png', Buffer.from('PK\u0003\u0004 and more'))).toContain('is no JPEG');
    expect(await why('short.jpg', jpeg.subarray(0, jpeg.length / 2))).toContain('is broken');
    expect(await why('empty.jpg', Buffer.alloc(0))).toContain('is empty');
    expect(await why('large.jpg', Buffer.concat([jpeg, Buffer.alloc(10 * 1024 * 1024)]))).toContain(
      'larger than 10 MB',
    );
    // A few bytes that open into 1.6 thousand million pixels.
    expect(await why('bomb.png', emptyPng(40_000, 40_000))).toContain('40000 × 40000 pixels');
    const { rows } = await server.db.pool.query<{ n: number }>(
      `select count(*)::int as n from picture where bytes > 0`,
    );
    expect(rows[0]!.n).withContext('nothing of them is kept').toBe(0);
  });

  it('stand on goods in order, with their texts, in the shop too, and are taken back', async () => {
    const [code] = await server.codes('stage is "On sale" stock > 0 price is filled');
    const sku = await server.sku(code!);
    const { row, shopAddress } = await server.call(calls.getSku, { params: { id: sku } });
    const product = row[1]!;
    const ids: string[] = [];
    for (const colour of ['#111111', '#222222', '#333333'])
      ids.push((await send(`${colour}.png`, await drawn(colour).png().toBuffer())).picture.id);
    const before = await server.value(sku, 'picture');
    await server.set('product', product, 'gallery', ids.map((id) => `#${id}`).join(' | '));
    await server.set('picture', ids[0]!, 'alternative', 'A bottle, from the front');
    const proposed = await server.call(calls.getThing, { params: { kind: 'product', id: product } });
    expect(proposed.pictures.filter(({ id }) => ids.includes(id)).length).toBe(3);
    const landing = await landHand();
    expect(await server.value(sku, 'picture')).toBe('3');
    const inShop = async () => {
      const shown = await server.call(calls.shopProduct, { params: { slug: shopAddress.split('/').at(-1)! } });
      return 'pictures' in shown ? shown.pictures : [];
    };
    expect((await inShop()).map(({ alternative }) => alternative)).toEqual(['A bottle, from the front', '', '']);
    await server.set('product', product, 'gallery', `#${ids[2]} | #${ids[0]}`);
    const turned = await landHand();
    expect((await inShop()).map(({ alternative }) => alternative)).toEqual(['', 'A bottle, from the front']);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    await server.land((await server.takeBack(turned)).id);
    expect((await inShop()).length).toBe(3);
    await server.land((await server.takeBack(landing)).id);
    expect(await server.value(sku, 'picture')).toBe(before);
    expect((await refusalOf(server.set('product', product, 'gallery', 'side.jpg'))).places?.[0]?.code).toBe(
      'picture-unreadable',
    );
    await server.set('product', product, 'gallery', '#999999999');
    const gone = await refusalOf(landHand());
    expect(gone.status).withContext('a picture that is not there').toBe(409);
  });

  it('stand at the head of categories and assortments', async () => {
    const { picture } = await send('head.png', await drawn('#556677').png().toBuffer());
    await server.set('category', '1', 'picture', `#${picture.id}`);
    await landHand();
    const { categories } = await server.call(calls.shopCategories);
    expect(categories.find(({ id }) => id === '1')!.picture).toBe(picture.key);
    const { pictures } = await server.call(calls.getThing, { params: { kind: 'category', id: '1' } });
    expect(pictures.map(({ id }) => id)).toEqual([picture.id]);
  });
});
