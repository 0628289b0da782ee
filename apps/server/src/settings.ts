import { z } from 'zod';

const SettingsSchema = z.object({
  DATABASE_URL: z.string().regex(/^postgres(ql)?:\/\//, 'must begin with postgres://'),
  ULVANE_PORT: z.coerce.number().int().min(0).max(65535).default(4310),
  ULVANE_NOW: z.iso.datetime({ error: 'must be an instant such as 2026-03-02T10:00:00Z' }).optional(),
  ULVANE_SEED: z.enum(['demo', 'empty']).default('demo'),
  ULVANE_LOG: z.enum(['info', 'warn', 'error', 'silent']).default('info'),
});

export type Settings = {
  readonly databaseUrl: string;
  readonly port: number;
  /** Set when the clock is pinned. */
  readonly now: string | null;
  readonly seed: 'demo' | 'empty';
  readonly logLevel: 'info' | 'warn' | 'error' | 'silent';
};

/** Reads the settings from the environment; a bad one is named with what it should be. */
export function readSettings(environment: NodeJS.ProcessEnv): Settings {
  const parsed = SettingsSchema.safeParse(environment);
  if (!parsed.success)
    throw new Error(
      parsed.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`).join('; '),
    );
  const { DATABASE_URL, ULVANE_PORT, ULVANE_NOW, ULVANE_SEED, ULVANE_LOG } = parsed.data;
  return {
    databaseUrl: DATABASE_URL,
    port: ULVANE_PORT,
    now: ULVANE_NOW ? new Date(ULVANE_NOW).toISOString() : null,
    seed: ULVANE_SEED,
    logLevel: ULVANE_LOG,
  };
}
