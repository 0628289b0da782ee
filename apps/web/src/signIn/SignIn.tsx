import { api, type Session } from '@ulvane/contract';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { useSWRConfig } from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';
import { Field } from '../shell/Field';
import { Problem } from '../shell/Problem';

export function SignIn({ session }: { readonly session: Session }) {
  const { mutate } = useSWRConfig();
  const [error, setError] = useState<unknown>();
  const { register, handleSubmit, formState } = useForm({ defaultValues: { name: '', password: '' } });
  const submit = handleSubmit(async (body) => {
    setError(undefined);
    try {
      await mutate(keys.session, await call(api.signIn, { body }), { revalidate: false });
    } catch (problem) {
      setError(problem);
    }
  });
  return (
    <main className="page">
      <div className="gate-card">
        <p className="word">
          <svg width="9" height="18" aria-hidden="true">
            <rect width="3" height="18" fill="var(--line)" />
            <rect x="6" width="3" height="18" fill="var(--line)" />
          </svg>
          Ulvane
        </p>
        <div className="sheet">
          <h1>Sign in{session.organisation ? ` to ${session.organisation}` : ''}</h1>
          {session.demo && (
            <p className="notice good">
              This is the demo. Names are technician, lead and observer; the password was printed when Ulvane
              was started.
            </p>
          )}
          {!session.setUp && (
            <p className="notice">
              This Ulvane has not been set up yet: open the one-time link that was printed at its start.
            </p>
          )}
          <Problem error={error} />
          <Form onSubmit={(event) => void submit(event)}>
            <Field label="Name">
              {(ids) => (
                <Form.Control {...ids} {...register('name')} autoComplete="username" autoFocus required />
              )}
            </Field>
            <Field label="Password">
              {(ids) => (
                <Form.Control
                  {...ids}
                  {...register('password')}
                  type="password"
                  autoComplete="current-password"
                  required
                />
              )}
            </Field>
            <Button type="submit" disabled={formState.isSubmitting}>
              Sign in
            </Button>
          </Form>
        </div>
        <p className="small-print">
          Plans, runs and records the move of a computer off a system without support, so that no file is lost
          on the way.
        </p>
      </div>
    </main>
  );
}
