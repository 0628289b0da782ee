import { valueOf } from '../../survey/facts';
import { fixable, meets, type RequirementRule } from '../judgement';
import { unknownFact } from '../unknown';

export const setupNetwork: RequirementRule<'setup-network'> = {
  kind: 'setup-network',
  reads: ['networkAdapters'],
  judge: (_requirement, { facts }) => {
    const adapters = valueOf(facts, 'networkAdapters');
    if (adapters === undefined) return unknownFact('networkAdapters', 'set-up needs a network');
    return adapters.length > 0
      ? meets(
          `Set-up needs a network; there ${adapters.length === 1 ? 'is one adapter' : `are ${adapters.length} adapters`}.`,
        )
      : fixable('Set-up needs a network and there is no adapter.', {
          id: 'network-adapter',
          action: 'Bring a USB network adapter whose driver comes with the release',
          handsOnMinutes: 3,
          cost: 15,
          part: { kind: 'network adapter' },
        });
  },
  fix: () => ({ networkAdapters: [{ name: 'USB network adapter', kind: 'wired' }] }),
};
