import { api, groupKeys } from '@ulvane/contract';
import { verdicts } from '@ulvane/core/assess';
import { printCount } from '@ulvane/core/quantity';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { Link } from 'react-router';
import useSWR from 'swr';
import { addressOf, call } from '../api/call';
import { keys } from '../api/keys';
import { VerdictSign } from '../drawing/verdicts';
import { Field } from '../shell/Field';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';

type GroupKey = (typeof groupKeys)[number];

const titles: Record<GroupKey, string> = {
  site: 'Site',
  device: 'Model',
  verdict: 'Verdict against newer releases',
  unlock: 'What unlocks most',
  present: 'Present system',
};

/** What devices have in common, the shopping list, and the days that are left. */
export function Groups() {
  const [by, setBy] = useState<GroupKey>('unlock');
  const groups = useSWR(keys.fleetGroups(by), () => call(api.fleetGroups, { query: { by } }), {
    keepPreviousData: true,
  });
  const shopping = useSWR(keys.shoppingList, () => call(api.shoppingList));
  const max = Math.max(1, ...(groups.data?.groups ?? []).map(({ count }) => count));
  return (
    <div className="columns">
      <section className="sheet" aria-labelledby="groups">
        <h2 id="groups">Open moves by</h2>
        <Field label="Group by">
          {(ids) => (
            <Form.Select
              {...ids}
              value={by}
              onChange={({ target }) => setBy(groupKeys.find((key) => key === target.value) ?? by)}
            >
              {groupKeys.map((key) => (
                <option key={key} value={key}>
                  {titles[key]}
                </option>
              ))}
            </Form.Select>
          )}
        </Field>
        <Problem error={groups.error} />
        {!groups.data && groups.error === undefined && <Loading what="the groups" />}
        {groups.data && (
          <table className="table">
            <thead>
              <tr>
                <th scope="col">{titles[by]}</th>
                {by === 'present' && (
                  <th scope="col" className="number">
                    Days left
                  </th>
                )}
                <th scope="col" className="number">
                  Devices
                </th>
                <th scope="col">
                  <span className="visually-hidden">Share</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {groups.data.groups.map(({ key, value, count, daysLeft }) => (
                <tr key={key}>
                  <th scope="row">
                    <Link to={`/fleet?${new URLSearchParams({ [by]: key }).toString()}`}>
                      {by === 'verdict' ? <VerdictText value={value} /> : value}
                    </Link>
                  </th>
                  {by === 'present' && (
                    <td className="number">
                      {daysLeft !== null &&
                        (daysLeft < 0 ? `ended ${printCount(-daysLeft, 'day')} ago` : daysLeft)}
                    </td>
                  )}
                  <td className="number">{count}</td>
                  <td className="share">
                    <span className="fill" style={{ width: `${(count / max) * 100}%` }} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {groups.data?.groups.length === 0 && <p className="empty">No open move has one.</p>}
      </section>
      <section className="sheet" aria-labelledby="shopping">
        <div className="d-flex gap-2 align-items-start">
          <h2 id="shopping">Shopping list</h2>
          <a className="btn btn-quiet btn-sm ms-auto" href={addressOf(api.shoppingListCsv)}>
            As CSV
          </a>
        </div>
        <p className="small-print">
          For the chosen route of each device, or the advised one, as long as it has not crossed the Line.
        </p>
        <Problem error={shopping.error} />
        {shopping.data?.lines.length === 0 && <p className="mb-0">Nothing has to be bought.</p>}
        <ul className="check-rows">
          {shopping.data?.lines.map(({ part, count, references }) => (
            <li key={part}>
              <strong>
                {count} × {part}
              </strong>{' '}
              {count > 1 && <span className="soft">the same for {count} devices</span>}
              <span className="small-print d-block">
                {references.slice(0, 12).map((reference, index) => (
                  <span key={reference}>
                    {index > 0 && ', '}
                    <Link to={`/moves/${reference}/decide`}>{reference}</Link>
                  </span>
                ))}
                {references.length > 12 && ` and ${references.length - 12} more`}
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}

function VerdictText({ value }: { readonly value: string }) {
  const verdict = verdicts.find((known) => known === value);
  return verdict ? <VerdictSign verdict={verdict} /> : value;
}
