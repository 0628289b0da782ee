import { z } from 'zod';
import { DaySchema } from '../quantity/daySchema';

/** Why a move is made. */
export const purposes = [
  'support-ends',
  'another-instead',
  'another-beside',
  'trial',
  'start-clean',
  'new-computer',
  'changes-owner',
] as const;
export type Purpose = (typeof purposes)[number];

/** Why the move is made, as somebody stated it; `until` is the last day of a trial. */
export const WishSchema = z
  .strictObject({ purpose: z.enum(purposes), until: DaySchema.nullable() })
  .refine(({ purpose, until }) => (purpose === 'trial') === (until !== null), {
    message: 'A trial has a last day, and nothing else has.',
  });
export type Wish = z.infer<typeof WishSchema>;

export const purposeTexts: Readonly<
  Record<Purpose, { readonly title: string; readonly about: string; readonly refuses: string }>
> = {
  'support-ends': {
    title: 'Support ends',
    about: 'The present system is left before its security updates end, or because they have ended.',
    refuses: '',
  },
  'another-instead': {
    title: 'Another system instead',
    about: 'A system of another family takes the place of the present one.',
    refuses: 'A system of another family is wanted instead of the present one.',
  },
  'another-beside': {
    title: 'Another system beside',
    about: 'The present system stays, and another one is started beside it.',
    refuses: 'Another system is wanted beside the present one.',
  },
  trial: {
    title: 'A trial until a date',
    about: 'Another system is tried beside the present one, and goes or stays on that day.',
    refuses: 'Another system is to be tried beside the present one.',
  },
  'start-clean': {
    title: 'Start clean',
    about: 'The system is installed anew, without what has gathered in it.',
    refuses: 'A clean start is wanted: what has gathered in the present system is not to stay.',
  },
  'new-computer': {
    title: 'New or empty computer',
    about: 'Nothing on the computer is kept.',
    refuses: 'The computer is new or empty: nothing on it is kept.',
  },
  'changes-owner': {
    title: 'Changes owner',
    about: 'The next owner gets the computer without anything of the one before.',
    refuses: 'The computer changes its owner: nothing of the one before may stay on it.',
  },
};

/** Purposes for which a system is installed anew though the same one runs already, and gets fixes. */
export const wipesForItself: ReadonlySet<Purpose> = new Set<Purpose>([
  'start-clean',
  'new-computer',
  'changes-owner',
]);
