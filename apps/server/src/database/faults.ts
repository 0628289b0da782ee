/** A programming error, found by the pool: the transaction's own manager has to be used, or the reading done before. */
export class SecondConnection extends Error {
  constructor() {
    super('a second connection was asked for inside a transaction');
  }
}

/** The database does not answer at present. */
export class DatabaseDown extends Error {
  constructor() {
    super('the database does not answer');
  }
}

/** The connection broke between COMMIT and its answer: nobody can know here whether it was done. */
export class OutcomeUnknown extends Error {
  constructor() {
    super('the connection broke while the transaction was being committed');
  }
}

/** What went wrong with the database, as far as a caller has to know. */
export type Fault =
  | { readonly kind: 'down' | 'busy' | 'full' | 'outcome-unknown' | 'not-storable' | 'no-right' }
  | { readonly kind: 'taken'; readonly constraint: string };

/** Classes and codes of PostgreSQL (documentation, appendix A). */
const kinds: readonly (readonly [RegExp, Exclude<Fault['kind'], 'taken'>])[] = [
  [/^(08...|57P0[1-5])$/, 'down'],
  [/^(55P03|57014|25P0[1-4]|40001|40P01|53300|53200)$/, 'busy'],
  [/^(53100|58030)$/, 'full'],
  [/^(22...|54000)$/, 'not-storable'],
  [/^42501$/, 'no-right'],
];

const lostConnection =
  /Connection terminated|Client was closed|not queryable|Client has encountered|QueryRunnerAlreadyReleased|was already released|Query runner already released|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|socket hang up|Cannot use a pool after/i;

function fieldOf(error: unknown, name: string): string {
  if (typeof error !== 'object' || error === null || !(name in error)) return '';
  const value: unknown = Object.getOwnPropertyDescriptor(error, name)?.value;
  return typeof value === 'string' ? value : '';
}

/** What an error of the database, its driver or the pool means; null for any other. */
export function faultOf(error: unknown): Fault | null {
  if (error instanceof OutcomeUnknown) return { kind: 'outcome-unknown' };
  if (error instanceof DatabaseDown) return { kind: 'down' };
  if (!(error instanceof Error)) return null;
  const code = fieldOf(error, 'code');
  if (code === '23505') return { kind: 'taken', constraint: fieldOf(error, 'constraint') };
  const found = kinds.find(([pattern]) => pattern.test(code));
  if (found) return { kind: found[1] };
  if (/timeout exceeded when trying to connect/.test(error.message)) return { kind: 'busy' };
  if (lostConnection.test(`${code} ${error.name} ${error.message}`)) return { kind: 'down' };
  return null;
}
