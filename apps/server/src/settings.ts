import { z } from 'zod';
import type { KeySource } from './vault/keyRing';

const SettingsSchema = z.object({
  DATABASE_URL: z.string().regex(/^postgres(ql)?:\/\//, 'must begin with postgres://'),
  /** The role that owns the tables and runs migrations; else that of DATABASE_URL. */
  ULVANE_OWNER_URL: z
    .string()
    .regex(/^postgres(ql)?:\/\//, 'must begin with postgres://')
    .optional(),
  /** Names by which the server is reached beside this machine's own, with commas. */
  ULVANE_HOSTS: z.string().default(''),
  /** Addresses or networks of proxies whose word on the caller's address is taken, with commas. */
  ULVANE_PROXIES: z.string().default(''),
  ULVANE_PORT: z.coerce.number().int().min(0).max(65535).default(4310),
  ULVANE_NOW: z.iso.datetime({ error: 'must be an instant such as 2026-03-02T10:00:00Z' }).optional(),
  ULVANE_SEED: z.enum(['demo', 'empty']).default('demo'),
  /** The vault's key, 32 bytes in base64; older ones after a comma, until they are rotated out. */
  ULVANE_VAULT_KEY: z.string().min(1).optional(),
  ULVANE_VAULT_KEY_FILE: z.string().min(1).default('.ulvane/vault.key'),
  ULVANE_LOG: z.enum(['info', 'warn', 'error', 'silent']).default('info'),
});

export type Settings = {
  readonly databaseUrl: string;
  readonly ownerUrl: string;
  readonly hosts: readonly string[];
  readonly proxies: readonly string[];
  readonly port: number;
  /** Set when the clock is pinned. */
  readonly now: string | null;
  readonly seed: 'demo' | 'empty';
  readonly vault: KeySource;
  readonly logLevel: 'info' | 'warn' | 'error' | 'silent';
};

function listOf(text: string): string[] {
  return text
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '');
}

/** Reads the settings from the environment; a bad one is named with what it should be. */
export function readSettings(environment: NodeJS.ProcessEnv): Settings {
  const parsed = SettingsSchema.safeParse(environment);
  if (!parsed.success)
    throw new Error(
      parsed.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`).join('; '),
    );
  const { DATABASE_URL, ULVANE_PORT, ULVANE_NOW, ULVANE_SEED, ULVANE_LOG } = parsed.data;
  const { ULVANE_VAULT_KEY, ULVANE_VAULT_KEY_FILE } = parsed.data;
  return {
    databaseUrl: DATABASE_URL,
    ownerUrl: parsed.data.ULVANE_OWNER_URL ?? DATABASE_URL,
    hosts: listOf(parsed.data.ULVANE_HOSTS),
    proxies: listOf(parsed.data.ULVANE_PROXIES),
    port: ULVANE_PORT,
    now: ULVANE_NOW ? new Date(ULVANE_NOW).toISOString() : null,
    seed: ULVANE_SEED,
    vault: ULVANE_VAULT_KEY
      ? { kind: 'environment', keys: ULVANE_VAULT_KEY.split(',') }
      : { kind: 'file', path: ULVANE_VAULT_KEY_FILE },
    logLevel: ULVANE_LOG,
  };
}
