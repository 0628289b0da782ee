import Form from 'react-bootstrap/Form';
import type { UseFormReturn } from 'react-hook-form';
import { Field } from '../shell/Field';

export type NewPasswordForm = { readonly password: string; readonly again: string };

const characters = 10;

/** A new password, typed twice. */
export function NewPasswordFields({ form }: { readonly form: UseFormReturn<NewPasswordForm> }) {
  const { register, formState } = form;
  return (
    <>
      <Field label="New password" hint={`${characters} characters or more`}>
        {(ids) => (
          <Form.Control
            {...ids}
            {...register('password')}
            type="password"
            autoComplete="new-password"
            required
            minLength={characters}
          />
        )}
      </Field>
      <Field label="New password again" error={formState.errors.again?.message}>
        {(ids) => (
          <Form.Control
            {...ids}
            {...register('again', {
              validate: (again, { password }) => again === password || 'The two passwords differ.',
            })}
            type="password"
            autoComplete="new-password"
            required
          />
        )}
      </Field>
    </>
  );
}
