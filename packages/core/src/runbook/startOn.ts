import type { Release } from '../catalogue/catalogue';
import { schemeThatStays, type StartOn } from '../media/startingMode';
import type { RunbookInput } from './input';

export type StartGiven = Pick<
  RunbookInput,
  'release' | 'present' | 'facts' | 'model' | 'waivers' | 'route' | 'installerMedium' | 'diskPlan'
>;

/** What the start of the target hangs on, for stick and switches; undefined where nothing is installed. */
export function startOn(input: StartGiven): (StartOn & { readonly release: Release }) | undefined {
  const { release, present, facts, model, waivers, route, installerMedium, diskPlan } = input;
  const work = diskPlan?.ok ? diskPlan.value.work : undefined;
  return (
    release && {
      release,
      facts,
      model,
      waivers,
      presentLoader: present?.loader,
      stays: schemeThatStays(facts, route, work?.kind === 'convert' ? work.target : undefined),
      fromStick:
        installerMedium === 'stick' &&
        (route.steps.includes('start-from-stick') || route.steps.includes('start-by-key')),
    }
  );
}
