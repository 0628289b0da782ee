import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { z } from 'zod';
import { Failure } from './fail';

const ReadySchema = z.object({
  ready: z.string(),
  demo: z.object({ accounts: z.array(z.string()), password: z.string() }).nullable(),
  setUpLink: z.string().nullable(),
  loaded: z.boolean(),
  unopenable: z.number(),
});

const MessageSchema = z.union([ReadySchema, z.object({ failed: z.string() })]);

export type Ready = z.infer<typeof ReadySchema>;
export type Server = {
  readonly ready: Ready;
  readonly process: ChildProcess;
  readonly stop: () => Promise<void>;
  readonly ended: Promise<number>;
};

/** How the server reaches its database: as the role that owns nothing, with the owner for migrations. */
export function databaseEnvironment(
  cluster: { readonly url: (name: string) => string; readonly appUrl: (name: string) => string } | undefined,
  name: string,
): Record<string, string> {
  return cluster
    ? { DATABASE_URL: cluster.appUrl(name), ULVANE_OWNER_URL: cluster.url(name) }
    : {
        DATABASE_URL: process.env.DATABASE_URL ?? '',
        ...(process.env.ULVANE_OWNER_URL ? { ULVANE_OWNER_URL: process.env.ULVANE_OWNER_URL } : {}),
      };
}

/** Where the vault's keys are kept, unless the environment says otherwise. */
export function vaultKeyFile(dataFolder: string): string {
  return process.env.ULVANE_VAULT_KEY_FILE ?? join(dataFolder, 'vault.key');
}

/** Starts the built server as a process of its own and waits until it listens. @param started gets the process at once */
export function startServer(
  environment: Readonly<Record<string, string>>,
  log: 'inherit' | 'ignore' | 'pipe' | number,
  started: (child: ChildProcess) => void = () => undefined,
): Promise<Server> {
  const child = spawn(process.execPath, ['--enable-source-maps', 'apps/server/dist/main.js'], {
    env: { ...process.env, ...environment },
    stdio: ['ignore', log, log, 'ipc'],
  });
  started(child);
  const ended = new Promise<number>((resolve) => child.on('exit', (code) => resolve(code ?? 1)));
  const stop = async () => {
    child.kill('SIGTERM');
    // A stopped process would never hear it.
    const timer = setTimeout(() => child.kill('SIGKILL'), 15_000);
    await ended;
    clearTimeout(timer);
  };
  return new Promise((resolve, reject) => {
    child.once('message', (raw: unknown) => {
      const message = MessageSchema.parse(raw);
      if ('ready' in message) resolve({ ready: message, process: child, stop, ended });
      else
        reject(
          new Failure(
            `The server did not start: ${message.failed}.${environment.DATABASE_URL === process.env.DATABASE_URL ? ' Check DATABASE_URL, and that the database runs and lets this user in.' : ''}`,
          ),
        );
    });
    void ended.then((code) => reject(new Failure(`The server ended with code ${code} before it was ready.`)));
  });
}
