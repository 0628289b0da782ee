import { z } from 'zod';

/** Fields of forms, as what is typed into them is judged; each says what to do in the words of its label. */
export const nameField = z.string().refine((name) => name.trim() !== '', 'Enter a name.');
export const countField = z.string().regex(/^\d{1,12}$/, 'Enter how many files there are, as a number.');
export const countOrEmpty = z.string().regex(/^(\d{1,9})?$/, 'Enter how many, or leave it empty.');

const characters = 10;

/** A new password, typed twice. */
const twice = {
  password: z.string().min(characters, `Enter ${characters} characters or more.`),
  again: z.string(),
};
const same = {
  test: ({ password, again }: { readonly password: string; readonly again: string }) => password === again,
  refusal: { message: 'The two passwords differ.', path: ['again'] },
};

export const NewPasswordSchema = z.object(twice).refine(same.test, same.refusal);
export type NewPasswordForm = z.infer<typeof NewPasswordSchema>;

export const SetUpSchema = z
  .object({
    organisation: z.string().min(2, 'Enter the organisation’s name.'),
    name: z.string().min(2, 'Enter your name.'),
    ...twice,
  })
  .refine(same.test, same.refusal);
