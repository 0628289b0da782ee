import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import { openApiDocument } from '@ulvane/contract';
import type { NextFunction, Request, Response } from 'express';
import helmet from 'helmet';
import { Logger } from 'nestjs-pino';
import { DataSource } from 'typeorm';
import { AccountsService } from './accounts/accounts.service';
import { AppModule } from './app.module';
import { Clock } from './clock/clock';
import { migrate } from './database/dataSource';
import { OrganisationEntity } from './house/organisation.entity';
import { sameOrigin } from './http/sameOrigin';
import { sessions } from './http/session';
import { MovesWriter } from './moves/moves.writer';
import { seed, type Seeded } from './seed/seed';
import type { Settings } from './settings';

export type Running = {
  readonly app: NestExpressApplication;
  readonly seeded: Seeded;
  readonly close: () => Promise<void>;
};

const webFolder = fileURLToPath(new URL('../../web/dist/', import.meta.url));

/** Connects, migrates, seeds a new database, and makes the application ready to listen. */
export async function createApp(settings: Settings): Promise<Running> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(settings), {
    bufferLogs: true,
    bodyParser: false,
    // A start that fails is told to the starter, in one sentence, instead of ending the process here.
    abortOnError: false,
  });
  app.useLogger(app.get(Logger));
  const dataSource = app.get(DataSource);
  await migrate(dataSource);
  const seeded = await seed(
    { dataSource, accounts: app.get(AccountsService), writer: app.get(MovesWriter), clock: app.get(Clock) },
    settings.seed,
  );

  const { sessionSecret } = await dataSource.getRepository(OrganisationEntity).findOneByOrFail({ id: 1 });
  const { middleware, close } = sessions(settings.databaseUrl, sessionSecret);
  app.set('trust proxy', 'loopback');
  app.use(policies());
  app.useBodyParser('json', { limit: '16mb' });
  app.use('/api/v1', sameOrigin, middleware);
  app.setGlobalPrefix('api/v1');
  SwaggerModule.setup('api/docs', app, openApiDocument() as unknown as OpenAPIObject, {
    jsonDocumentUrl: 'api/openapi.json',
    customSiteTitle: 'Ulvane API',
  });
  app.use('/api/health', (_request: Request, response: Response) => response.redirect(307, '/api/v1/health'));
  serveWeb(app);
  return {
    app,
    seeded,
    close: async () => {
      await app.close();
      await close();
    },
  };
}

/** A strict policy for the application; the API's description page brings inline styles of its own. */
function policies() {
  const directives = {
    defaultSrc: ["'self'"],
    // The hash of large files is WebAssembly that comes with the page.
    scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
    styleSrc: ["'self'"],
    imgSrc: ["'self'", 'data:'],
    fontSrc: ["'self'"],
    connectSrc: ["'self'"],
    workerSrc: ["'self'"],
    objectSrc: ["'none'"],
    baseUri: ["'self'"],
    formAction: ["'self'"],
    frameAncestors: ["'none'"],
    upgradeInsecureRequests: null,
  };
  const strict = helmet({
    contentSecurityPolicy: { useDefaults: false, directives },
    strictTransportSecurity: false,
  });
  const docs = helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: { ...directives, styleSrc: ["'self'", "'unsafe-inline'"] },
    },
    strictTransportSecurity: false,
  });
  return (request: Request, response: Response, next: NextFunction) =>
    (request.path.startsWith('/api/docs') ? docs : strict)(request, response, next);
}

/** The built page; every address that is not the API's is the page's own. */
function serveWeb(app: NestExpressApplication): void {
  if (!existsSync(webFolder)) return;
  app.useStaticAssets(webFolder, {
    index: false,
    maxAge: '1h',
    setHeaders: (response, path) =>
      path.includes('/assets/') && response.setHeader('Cache-Control', 'public, max-age=31536000, immutable'),
  });
  app.use((request: Request, response: Response, next: NextFunction) => {
    const page =
      request.method === 'GET' && !request.path.startsWith('/api/') && !request.path.startsWith('/assets/');
    if (!page) return next();
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile('index.html', { root: webFolder });
  });
}
