import { zodResolver } from '@hookform/resolvers/zod';
import { api } from '@ulvane/contract';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { Link, useSearchParams } from 'react-router';
import { call } from '../api/call';
import { Problem } from '../shell/Problem';
import { NewPasswordSchema, type NewPasswordForm } from '../shell/formFields';
import { NewPasswordFields } from './NewPasswordFields';

/** Somebody sets a new password with the one-time link that a lead has made. */
export function NewPassword() {
  const [search] = useSearchParams();
  const [error, setError] = useState<unknown>();
  const [done, setDone] = useState(false);
  const form = useForm<NewPasswordForm>({
    resolver: zodResolver(NewPasswordSchema),
    defaultValues: { password: '', again: '' },
  });
  const submit = form.handleSubmit(async ({ password }) => {
    setError(undefined);
    try {
      await call(api.resetPassword, { body: { token: search.get('token') ?? '', password } });
      setDone(true);
    } catch (problem) {
      setError(problem);
    }
  });
  return (
    <main className="page">
      <title>New password · Ulvane</title>
      <div className="gate-card sheet">
        <h1>New password</h1>
        {done ? (
          <>
            <p className="notice good">The new password is set. Every session of the account has ended.</p>
            <Link to="/">Sign in</Link>
          </>
        ) : (
          <Form onSubmit={(event) => void submit(event)}>
            <p>This link works once. Choose several words that do not belong together.</p>
            <Problem error={error} />
            <NewPasswordFields form={form} />
            <Button type="submit" disabled={form.formState.isSubmitting}>
              Set the password
            </Button>
          </Form>
        )}
      </div>
    </main>
  );
}
