import { api, tokenScopes, type ApiToken, type TokenScope } from '@ulvane/contract';
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

const scopeTexts: Readonly<Record<TokenScope, string>> = {
  read: 'read: look at moves, lists and the catalogue',
  write: 'write: also change what you may change',
  vault: 'vault: also show secrets, each showing in the log',
};

/** Ways in for programs: made, shown once, and revoked. */
export function Tokens() {
  const { data, error, mutate } = useSWR<{ tokens: ApiToken[] }, unknown>(keys.tokens, () =>
    call(api.apiTokens),
  );
  const [problem, setProblem] = useState<unknown>();
  const [made, setMade] = useState<string>();
  const { register, handleSubmit, reset, formState } = useForm<{ name: string; scope: TokenScope }>({
    defaultValues: { name: '', scope: 'read' },
  });
  const add = handleSubmit(async (body) => {
    setProblem(undefined);
    try {
      const { token, tokens } = await call(api.addApiToken, { body });
      setMade(token);
      await mutate({ tokens }, { revalidate: false });
      reset();
    } catch (refusal) {
      setProblem(refusal);
    }
  });
  const revoke = async (id: string) => {
    setProblem(undefined);
    try {
      await mutate(await call(api.revokeApiToken, { params: { id } }), { revalidate: false });
    } catch (refusal) {
      setProblem(refusal);
    }
  };
  return (
    <section className="sheet" aria-labelledby="api-tokens">
      <h2 id="api-tokens">API tokens</h2>
      <p className="small-print">
        A program sends its token as <code>Authorization: Bearer …</code> and may do what you may, within the
        scope. The API is described at <a href="/api/docs">/api/docs</a>.
      </p>
      <Problem error={problem ?? error} />
      {made !== undefined && (
        <div className="notice good" role="status">
          <p className="mb-1">This token is shown once. Copy it now:</p>
          <code className="mono token-text">{made}</code>
        </div>
      )}
      {!data && error === undefined && <Loading what="API tokens" />}
      {data?.tokens.length === 0 && <p className="soft">No token yet.</p>}
      {data && data.tokens.length > 0 && (
        <div className="table-scroll">
          <table className="table mb-3">
            <thead>
              <tr>
                <th scope="col">Name</th>
                <th scope="col">Of</th>
                <th scope="col">Scope</th>
                <th scope="col">Last use</th>
                <th scope="col">
                  <span className="visually-hidden">Change</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {data.tokens.map(({ id, name, account, scope, ends, lastUsedAt, revokedAt }) => (
                <tr key={id}>
                  <th scope="row">
                    {name} <span className="mono small-print">…{ends}</span>
                  </th>
                  <td>{account}</td>
                  <td>{scope}</td>
                  <td>{lastUsedAt === null ? 'never' : <Instant at={lastUsedAt} />}</td>
                  <td className="number">
                    {revokedAt === null ? (
                      <button
                        type="button"
                        className="btn-plain"
                        aria-label={`Revoke: ${name}`}
                        onClick={() => void revoke(id)}
                      >
                        Revoke
                      </button>
                    ) : (
                      <span className="soft">
                        revoked <Instant at={revokedAt} />
                      </span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <Form onSubmit={(event) => void add(event)}>
        <h3>Make a token</h3>
        <Field label="What it is for">
          {(ids) => (
            <Form.Control
              {...ids}
              {...register('name')}
              required
              minLength={2}
              maxLength={60}
              autoComplete="off"
            />
          )}
        </Field>
        <Field label="Scope">
          {(ids) => (
            <Form.Select {...ids} {...register('scope')}>
              {tokenScopes.map((scope) => (
                <option key={scope} value={scope}>
                  {scopeTexts[scope]}
                </option>
              ))}
            </Form.Select>
          )}
        </Field>
        <Button type="submit" variant="quiet" disabled={formState.isSubmitting}>
          Make
        </Button>
      </Form>
    </section>
  );
}
