import { refusalWords } from '@ivory/contract';
import { type Context, Hono } from 'hono';
import { secureHeaders } from 'hono/secure-headers';
import { bodyLimit } from 'hono/body-limit';
import { changeRoutes } from './changes/routes.ts';
import { exchangeRoutes } from './exchange/routes.ts';
import { keptRoutes } from './kept/routes.ts';
import { jobRoutes } from './jobs/routes.ts';
import { outletRoutes } from './outlets/routes.ts';
import { pricesRoutes } from './prices/routes.ts';
import { pictureRoutes } from './pictures/routes.ts';
import { rangeRoutes } from './range/routes.ts';
import { Refusal } from './refusal.ts';
import { shopRoutes } from './shop/routes.ts';
import { answerError } from './http/errors.ts';
import { type AppContext } from './http/appContext.ts';
import { onlyOurPages } from './http/onlyOurPages.ts';
import { readWeb } from './http/webFiles.ts';

/** Calls that take a file. */
const FILES: readonly string[] = ['/api/imports', '/api/pictures'];
const LARGEST_BODY = 8 * 1024 * 1024;

export function makeApp(context: AppContext): Hono {
  const app = new Hono();
  app.onError((error, c) => answerError(error, c, context.log));
  app.use(
    secureHeaders({
      contentSecurityPolicy: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'", 'data:'],
      },
    }),
  );
  app.use(onlyOurPages(context.origins));
  const limit = bodyLimit({
    maxSize: LARGEST_BODY,
    onError: () => {
      throw new Refusal('too large', refusalWords.server.requestTooLarge);
    },
  });
  app.use('/api/*', async (c: Context<object, string>, next) => {
    // Files have a limit of their own, which counts while the file is kept.
    if (FILES.includes(c.req.path) && c.req.method === 'POST') return next();
    return limit(c, next);
  });
  rangeRoutes(app, context);
  changeRoutes(app, context);
  exchangeRoutes(app, context);
  keptRoutes(app, context);
  jobRoutes(app, context);
  outletRoutes(app, context);
  pictureRoutes(app, context);
  pricesRoutes(app, context);
  shopRoutes(app, context);
  context.events.serve(app);
  app.all('/api/*', () => {
    throw new Refusal('not found', refusalWords.server.noSuchCall);
  });
  if (context.web) serveWeb(app, context.web);
  return app;
}

/** Every address that is no file is a page of the web's own. */
function serveWeb(app: Hono, root: string): void {
  const files = readWeb(root);
  app.get('/*', (c) => {
    const { body, headers } = files.get(c.req.path) ?? files.get('/index.html')!;
    return c.body(body, 200, headers);
  });
}
