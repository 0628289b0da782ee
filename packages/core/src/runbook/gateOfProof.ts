import type { ProofAsked } from '../machine/barrier';
import type { GateId } from './step';

/** The gate that tells whether a proof is there. */
export const gateOfProof: Readonly<Record<ProofAsked, GateId>> = {
  verify: 'copies-verified',
  identify: 'disk-identified',
  'connect-mains': 'power',
  'keep-sectors': 'capsule-kept',
  'suspend-encryption': 'recovery-key',
  'note:passphrase': 'passphrase',
};
