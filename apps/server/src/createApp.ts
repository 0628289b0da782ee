import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import { openApiDocument } from '@ulvane/contract';
import compression from 'compression';
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import helmet from 'helmet';
import { Logger } from 'nestjs-pino';
import { DataSource } from 'typeorm';
import { AccountsService } from './accounts/accounts.service';
import { AppModule } from './app.module';
import { Clock } from './clock/clock';
import { poolOf } from './database/dataSource';
import { bringUp } from './database/migrate';
import { Transactions } from './database/transactions';
import { forOwnHosts, wellFormedAddress } from './http/address';
import { Gate } from './http/gate';
import { Metrics } from './http/metrics';
import { sendProblem } from './http/problem';
import { sameOrigin } from './http/sameOrigin';
import { ServerSecret } from './http/serverSecret';
import { sessions } from './http/session';
import { MovesWriter } from './moves/moves.writer';
import { seed, type Seeded } from './seed/seed';
import type { Settings } from './settings';
import { VaultKeys } from './vault/vaultKeys';

export type Running = {
  readonly app: NestExpressApplication;
  readonly seeded: Seeded;
  /** Secrets that no key of this server opens. */
  readonly unopenable: number;
  /** Refuses new requests, finishes those that run within a limit, and lets go of everything. */
  readonly close: () => Promise<void>;
};

const webFolder = fileURLToPath(new URL('../../web/dist/', import.meta.url));
/** Requests under way get so long to finish when the server stops. */
const finishMs = 5000;
/** A connection over which nothing goes either way for so long is closed. */
const silenceMs = 120_000;

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
  try {
    const { value: seeded } = await bringUp(settings.ownerUrl, settings.databaseUrl, () =>
      seed(
        {
          dataSource,
          transactions: app.get(Transactions),
          accounts: app.get(AccountsService),
          writer: app.get(MovesWriter),
          clock: app.get(Clock),
        },
        settings.seed,
      ),
    );
    const vault = app.get(VaultKeys);
    await vault.load();
    const { gate, closeSessions } = await wire(app, settings);
    return {
      app,
      seeded,
      unopenable: await vault.unopenable(),
      close: async () => {
        await gate.close(finishMs);
        await closeSessions();
        await app.close();
      },
    };
  } catch (error) {
    await app.close().catch(() => undefined);
    throw error;
  }
}

/** What every request goes through before it reaches its handler, in this order. */
async function wire(
  app: NestExpressApplication,
  settings: Settings,
): Promise<{ readonly gate: Gate; readonly closeSessions: () => Promise<void> }> {
  const gate = new Gate();
  const server = app.getHttpServer();
  // A long upload is not cut while bytes arrive; silence is.
  server.requestTimeout = 0;
  server.timeout = silenceMs;
  // Longer than proxies keep theirs (60 s), and than a machine that stood still: who closes first breaks off a request
  // that the other side is just sending.
  server.keepAliveTimeout = 75_000;
  app.set('trust proxy', settings.proxies.length === 0 ? false : [...settings.proxies]);
  const session = sessions(poolOf(app.get(DataSource)), await app.get(ServerSecret).value());
  app.use(app.get(Metrics).middleware, gate.middleware, policies(), forOwnHosts(settings.hosts), compressed);
  app.use('/api', wellFormedAddress, neverStored);
  app.use('/api/v1', sameOrigin, session.middleware);
  app.use(['/api/docs', '/api/openapi.json'], session.middleware, signedInOnly);
  app.setGlobalPrefix('api/v1');
  SwaggerModule.setup('api/docs', app, openApiDocument() as unknown as OpenAPIObject, {
    jsonDocumentUrl: 'api/openapi.json',
    customSiteTitle: 'Ulvane API',
  });
  app.use('/api/health', (_request: Request, response: Response) => response.redirect(307, '/api/v1/health'));
  serveWeb(app);
  return { gate, closeSessions: session.close };
}

/** Text goes out compressed; secrets do not, so that the length of an answer tells nothing of them. */
const compressed = compression({
  filter: (request, response) => !request.path.includes('/secrets') && compression.filter(request, response),
});

const neverStored: RequestHandler = (_request, response, next) => {
  response.setHeader('Cache-Control', 'no-store');
  next();
};

/** The API's description is for those who may use it. */
const signedInOnly: RequestHandler = (request, response, next) => {
  if (request.session?.account) return next();
  sendProblem(
    request,
    response,
    'not-signed-in',
    'Sign in first: the API is described to those who may use it.',
  );
};

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
