import Form from 'react-bootstrap/Form';
import type { UseFormReturn } from 'react-hook-form';
import { Field } from '../shell/Field';
import type { NewPasswordForm } from '../shell/formFields';

/** A new password, typed twice. */
export function NewPasswordFields({ form }: { readonly form: UseFormReturn<NewPasswordForm> }) {
  const { register, formState } = form;
  return (
    <>
      <Field label="New password" hint="10 characters or more" error={formState.errors.password?.message}>
        {(ids) => (
          <Form.Control
            {...ids}
            {...register('password')}
            type="password"
            autoComplete="new-password"
            required
          />
        )}
      </Field>
      <Field label="New password again" error={formState.errors.again?.message}>
        {(ids) => (
          <Form.Control
            {...ids}
            {...register('again')}
            type="password"
            autoComplete="new-password"
            required
          />
        )}
      </Field>
    </>
  );
}
