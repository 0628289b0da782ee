import type { SecretKind } from '@ulvane/core/record';

export const secretWords: Readonly<Record<SecretKind, string>> = {
  'licence-key': 'licence key',
  'recovery-key': 'recovery key',
  'wireless-key': 'wireless key',
  password: 'password',
  certificate: 'certificate',
  other: 'other',
};
