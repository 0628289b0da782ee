import { api, type HouseView } from '@ulvane/contract';
import { houseRuleChanges, type HouseRules } from '@ulvane/core/rules';
import { houseRulesEffect } from '@ulvane/core/record';
import { useMemo, useState } from 'react';
import Form from 'react-bootstrap/Form';
import useSWR from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';
import { useMoveView } from '../api/useMove';
import { Field } from '../shell/Field';
import { useDay } from '../shell/useDay';

const shownLines = 8;

/** What other house rules would do to one move: its advice, and its plan. */
export function EffectOnSample({
  house,
  houseRules,
}: {
  readonly house: HouseView;
  readonly houseRules: HouseRules;
}) {
  const { data: list } = useSWR(keys.sampleMoves, () =>
    call(api.moves, { query: { pageSize: 100, sort: 'reference', order: 'asc' } }),
  );
  const rows = (list?.rows ?? []).filter(({ stage }) => stage !== 'done' && stage !== 'survey');
  const [picked, setPicked] = useState('');
  const reference = picked || (rows.find(({ route }) => route !== '')?.reference ?? rows[0]?.reference ?? '');
  const { data: view } = useMoveView(reference);
  const today = useDay();
  const effect = useMemo(
    () => (view ? houseRulesEffect(view.move, house, houseRules, today) : undefined),
    [view, house, houseRules, today],
  );
  const changes = houseRuleChanges(house.houseRules, houseRules);
  return (
    <>
      <ul>
        {changes.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
      <Field label="Its effect on a sample move">
        {(ids) => (
          <Form.Select {...ids} value={reference} onChange={({ target }) => setPicked(target.value)}>
            {rows.map((row) => (
              <option key={row.reference} value={row.reference}>
                {row.reference} {row.device}, {row.owner}
                {row.route && `: ${row.route}`}
              </option>
            ))}
          </Form.Select>
        )}
      </Field>
      {effect && (
        <div className="mb-2">
          <p className="mb-1">
            {effect.advisedBefore === effect.advisedAfter ? (
              <>The advice stays: {effect.advisedAfter}.</>
            ) : (
              <>
                <strong>The advice would be {effect.advisedAfter}</strong>, and is {effect.advisedBefore}.
              </>
            )}
          </p>
          {effect.plan.length === 0 ? (
            <p className="mb-0">Its plan stays as it is.</p>
          ) : (
            <ul className="mb-0">
              {effect.plan.slice(0, shownLines).map((sentence) => (
                <li key={sentence}>{sentence}</li>
              ))}
              {effect.plan.length > shownLines && <li>and {effect.plan.length - shownLines} more</li>}
            </ul>
          )}
        </div>
      )}
    </>
  );
}
