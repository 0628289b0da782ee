import type { StepMaker } from '../input';

export const recordConsents: StepMaker = ({ route, waivers, release }) => {
  if (route.consent.length === 0) return [];
  const waived = (release?.requirements ?? []).flatMap((requirement) =>
    waivers.includes(requirement.kind) && 'waiver' in requirement && requirement.waiver
      ? [`${requirement.kind.replaceAll('-', ' ')} (${requirement.waiver})`]
      : [],
  );
  return [
    {
      words: () => ({
        title: `Have the ${route.consent.join(' and the ')} agree in writing`,
        why:
          waived.length === 0
            ? 'What is lost and not promised any more is on the paper.'
            : `Waived one by one: ${waived.join('; ')}`,
        success: 'Both signers, and where the paper is kept, are noted on Prepare.',
      }),
      operators: () => [{ op: 'note', note: 'consents' }],
    },
  ];
};
