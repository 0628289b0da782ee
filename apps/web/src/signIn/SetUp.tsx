import { zodResolver } from '@hookform/resolvers/zod';
import { api } from '@ulvane/contract';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { useNavigate, useSearchParams } from 'react-router';
import { useSWRConfig } from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';
import { Field } from '../shell/Field';
import { Problem } from '../shell/Problem';
import { SetUpSchema } from '../shell/formFields';

/** The first lead sets the organisation up, once, with the link that the start printed. */
export function SetUp() {
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const { mutate } = useSWRConfig();
  const [error, setError] = useState<unknown>();
  const { register, handleSubmit, formState } = useForm({
    resolver: zodResolver(SetUpSchema),
    defaultValues: { organisation: '', name: '', password: '', again: '' },
  });
  const submit = handleSubmit(async ({ organisation, name, password }) => {
    setError(undefined);
    try {
      const session = await call(api.setUp, {
        body: { token: search.get('token') ?? '', organisation, name, password },
      });
      await mutate(keys.session, session, { revalidate: false });
      await navigate('/');
    } catch (problem) {
      setError(problem);
    }
  });
  return (
    <main className="page">
      <div className="gate-card sheet">
        <h1>Set Ulvane up</h1>
        <p>
          You become the first lead: leads edit house rules and accounts, and may overrule a gate with a
          reason.
        </p>
        <Problem error={error} />
        <Form onSubmit={(event) => void submit(event)}>
          <Field label="Organisation">
            {(ids) => (
              <Form.Control {...ids} {...register('organisation')} required minLength={2} autoFocus />
            )}
          </Field>
          <Field label="Your name">
            {(ids) => (
              <Form.Control {...ids} {...register('name')} autoComplete="username" required minLength={2} />
            )}
          </Field>
          <Field label="Password" hint="10 characters or more">
            {(ids) => (
              <Form.Control
                {...ids}
                {...register('password')}
                type="password"
                autoComplete="new-password"
                required
                minLength={10}
              />
            )}
          </Field>
          <Field label="Password again" error={formState.errors.again?.message}>
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
          <Button type="submit" disabled={formState.isSubmitting}>
            Set up
          </Button>
        </Form>
      </div>
    </main>
  );
}
