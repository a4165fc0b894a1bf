/** The web application as files: hashed ones for good, the page with who is signed in. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { NextFunction, Request, Response } from 'express';
import type { SignedIn } from './account/guard.js';
import { People } from './account/people.js';
import { sessionOf } from './account/session.js';
import { Sessions } from './account/sessions.js';
import type { Config } from './config.js';

export function serveWebApp(app: NestExpressApplication, config: Config): void {
  const folder = config.webFolder;
  const [people, sessions] = [app.get(People), app.get(Sessions)];
  const page = readFileSync(join(folder, 'index.html'), 'utf8');
  // Files only: packing an answer of the API costs more than it saves (a list of 100 rows: 20 ms, the waterline twice its time).
  const packed = compression();
  app.use((request: Request, response: Response, next: NextFunction) =>
    request.path.startsWith('/api') ? next() : packed(request, response, next),
  );
  // Their names hold a hash of what they hold.
  app.useStaticAssets(join(folder, 'assets'), {
    prefix: '/assets',
    index: false,
    immutable: true,
    maxAge: '365d',
  });
  app.useStaticAssets(folder, { index: false, maxAge: '1h' });
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (request.method !== 'GET' || request.path.startsWith('/api')) return next();
    sessionOf(people, sessions, config, request as SignedIn)
      .catch(() => null)
      .then((session) =>
        response
          .setHeader('Cache-Control', 'no-store')
          .type('html')
          .send(page.replace('<div id="root">', `${dataBlock(session)}<div id="root">`)),
      )
      .catch(next);
  });
}

/** Read by the page before its first screen; nothing that is executed. */
const dataBlock = (session: object | null): string =>
  session
    ? `<script type="application/json" id="session">${JSON.stringify(session).replaceAll('<', '\\u003c')}</script>`
    : '';
