import fc from 'fast-check';

/**
 * What laws draw is the same in every run, so that a failure can be looked at again. `ULVANE_LAWS_SEED` draws from
 * another place: a whole number, or `new` for one that no run has had.
 */
const asked = process.env.ULVANE_LAWS_SEED ?? '20261126';

if (asked !== 'new') {
  const seed = Number(asked);
  if (!Number.isInteger(seed)) throw new Error('ULVANE_LAWS_SEED is a whole number, or “new”.');
  fc.configureGlobal({ seed });
}
