import { createServer } from 'node:http';
import { startStorefront } from './index.ts';

describe('the storefront', () => {
  it('cannot be framed, runs no script, and says so on every page, also when the shop is closed', async () => {
    const shop = createServer((_, response) => {
      response.setHeader('content-type', 'application/json');
      response.end(JSON.stringify({ shop: 'Teasel', categories: [], total: 0, products: [] }));
    });
    await new Promise<void>((go) => shop.listen(0, '127.0.0.1', () => go()));
    const { port } = shop.address() as { port: number };
    const storefront = await startStorefront(0, () => `http://127.0.0.1:${port}`);
    const closed = await startStorefront(0, () => 'http://127.0.0.1:1');
    try {
      for (const address of [storefront.address, `${storefront.address}/categories/9`, closed.address]) {
        const { headers } = await fetch(address);
        expect(headers.get('x-frame-options')).withContext(address).toBe('DENY');
        expect(headers.get('x-content-type-options')).toBe('nosniff');
        const policy = headers.get('content-security-policy') ?? '';
        expect(policy).toContain("frame-ancestors 'none'");
        expect(policy).toContain("default-src 'none'");
        expect(policy).not.toContain('unsafe');
      }
    } finally {
      await Promise.all([storefront.close(), closed.close()]);
      shop.close();
    }
  });
});
