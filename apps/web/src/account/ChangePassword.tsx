import { zodResolver } from '@hookform/resolvers/zod';
import { api } from '@ulvane/contract';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { call } from '../api/call';
import { Field } from '../shell/Field';
import { Problem } from '../shell/Problem';
import { NewPasswordSchema, type NewPasswordForm } from '../shell/formFields';
import { NewPasswordFields } from '../signIn/NewPasswordFields';

/** Changes one's own password; every other session of the account ends. */
export function ChangePassword() {
  const [present, setPresent] = useState('');
  const [error, setError] = useState<unknown>();
  const [done, setDone] = useState(false);
  const form = useForm<NewPasswordForm>({
    resolver: zodResolver(NewPasswordSchema),
    defaultValues: { password: '', again: '' },
  });
  const submit = form.handleSubmit(async ({ password }) => {
    setError(undefined);
    setDone(false);
    try {
      await call(api.changePassword, { body: { present, next: password } });
      form.reset();
      setPresent('');
      setDone(true);
    } catch (problem) {
      setError(problem);
    }
  });
  return (
    <section className="sheet" aria-labelledby="change-password">
      <h2 id="change-password">Password</h2>
      {done && (
        <p className="notice good" role="status">
          The password is changed. Other browsers that were signed in as you have to sign in again.
        </p>
      )}
      <Problem error={error} />
      <Form onSubmit={(event) => void submit(event)}>
        <Field label="Present password">
          {(ids) => (
            <Form.Control
              {...ids}
              type="password"
              autoComplete="current-password"
              required
              value={present}
              onChange={({ target }) => setPresent(target.value)}
            />
          )}
        </Field>
        <NewPasswordFields form={form} />
        <Button type="submit" disabled={form.formState.isSubmitting}>
          Change password
        </Button>
      </Form>
    </section>
  );
}
