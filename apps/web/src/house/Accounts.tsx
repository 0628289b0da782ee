import { api, type Account } from '@ulvane/contract';
import { roles, type Role } from '@ulvane/core/record';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import useSWR from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';
import { Field } from '../shell/Field';
import { Instant } from '../shell/Instant';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';

/** Who may sign in, and as what. */
export function Accounts() {
  const { data, error, mutate } = useSWR<{ accounts: Account[] }, unknown>(keys.accounts, () =>
    call(api.accounts),
  );
  const [problem, setProblem] = useState<unknown>();
  const [link, setLink] = useState<{
    readonly name: string;
    readonly address: string;
    readonly until: string;
  }>();
  const { register, handleSubmit, reset, formState } = useForm<{
    name: string;
    role: Role;
    password: string;
  }>({ defaultValues: { name: '', role: 'technician', password: '' } });
  const act = async (work: () => Promise<unknown>): Promise<boolean> => {
    setProblem(undefined);
    try {
      await work();
      await mutate();
      return true;
    } catch (refusal) {
      setProblem(refusal);
      return false;
    }
  };
  const offer = async (id: string, version: number, name: string) => {
    const { path, until } = await call(api.offerReset, { params: { id }, body: { version } });
    setLink({ name, address: `${window.location.origin}${path}`, until });
  };
  const add = handleSubmit(async (body) => {
    if (await act(() => call(api.addAccount, { body }))) reset();
  });
  return (
    <section className="sheet">
      <h2>Accounts</h2>
      <Problem error={problem ?? error} />
      {!data && error === undefined && <Loading what="accounts" />}
      {link && (
        <div className="notice good" role="status">
          <p className="mb-1">
            Give this link to {link.name}, in person or by a way that only {link.name} reads. It works once,
            until <Instant at={link.until} />:
          </p>
          <code className="mono token-text">{link.address}</code>
        </div>
      )}
      <table className="table mb-3">
        <thead>
          <tr>
            <th scope="col">Name</th>
            <th scope="col">Role</th>
            <th scope="col">
              <span className="visually-hidden">Change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {data?.accounts.map(({ id, name, role, disabled, version }) => (
            <tr key={id}>
              <th scope="row">{name}</th>
              <td>
                {role}
                {disabled && ', disabled'}
              </td>
              <td className="number">
                {!disabled && (
                  <>
                    <button
                      type="button"
                      className="btn-plain"
                      aria-label={`One-time link for a new password: ${name}`}
                      onClick={() => void act(() => offer(id, version, name))}
                    >
                      New password
                    </button>
                    {' · '}
                  </>
                )}
                <button
                  type="button"
                  className="btn-plain"
                  aria-label={`${disabled ? 'Enable again' : 'Disable'}: ${name}`}
                  onClick={() =>
                    void act(() =>
                      call(api.setAccount, { params: { id }, body: { version, disabled: !disabled } }),
                    )
                  }
                >
                  {disabled ? 'Enable again' : 'Disable'}
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Form onSubmit={(event) => void add(event)}>
        <h3>Add an account</h3>
        <Field label="Name">
          {(ids) => <Form.Control {...ids} {...register('name')} required minLength={2} autoComplete="off" />}
        </Field>
        <Field label="Role">
          {(ids) => (
            <Form.Select {...ids} {...register('role')}>
              {roles.map((role) => (
                <option key={role}>{role}</option>
              ))}
            </Form.Select>
          )}
        </Field>
        <Field label="First password" hint="10 characters or more">
          {(ids) => (
            <Form.Control
              {...ids}
              {...register('password')}
              type="password"
              required
              minLength={10}
              autoComplete="new-password"
            />
          )}
        </Field>
        <Button type="submit" variant="quiet" disabled={formState.isSubmitting}>
          Add
        </Button>
      </Form>
    </section>
  );
}
