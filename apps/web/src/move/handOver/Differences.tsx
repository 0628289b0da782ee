import { api, type DifferenceGroup } from '@ulvane/contract';
import { describeKind, type DifferenceKind } from '@ulvane/core/manifest';
import { printBytes } from '@ulvane/core/quantity';
import type { Reconciled } from '@ulvane/core/record';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import useSWR from 'swr';
import { call } from '../../api/call';
import { keys } from '../../api/keys';
import { useChange } from '../../api/useMove';
import { Field } from '../../shell/Field';
import { FormDialog } from '../../shell/FormDialog';
import { Loading } from '../../shell/Loading';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';

type DifferencesProps = { readonly found: Reconciled; readonly open: boolean };

/** What may be lost first. */
const gravest: readonly DifferenceKind[] = [
  'missing',
  'changed',
  'unproven',
  'renamed',
  'moved',
  'merged',
  'added',
  'duplicated',
];

/** Usual reasons, by what became of a file; each is one key. Another one is written. */
const usual: Readonly<Record<DifferenceKind, readonly string[]>> = {
  missing: ['Left out on purpose', 'The owner deleted it'],
  changed: ['Owner’s work', 'Written by a program'],
  unproven: ['Opened and read', 'Not needed any more'],
  renamed: ['The new system needs the name', 'Owner’s wish'],
  moved: ['The new system’s place for it', 'Owner’s wish'],
  merged: ['Equal content, one is left', 'Owner’s wish'],
  added: ['Owner’s work', 'Made by a program'],
  duplicated: ['Owner’s work', 'Made by a program'],
};

type Asking = { readonly kind: DifferenceKind; readonly folder: string | null; readonly count: number };

const shownGroups = 60;

/** The differences by kind and folder; a group opens to its files, and is explained as one. */
export function Differences({ found, open }: DifferencesProps) {
  const { view, move } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const [asking, setAsking] = useState<Asking>();
  const [reason, setReason] = useState('');
  const [all, setAll] = useState(false);
  const params = { reference: move.reference, id: found.id };
  // What is open is part of the question: explained groups are asked for again.
  const {
    data,
    error: failed,
    isLoading,
  } = useSWR(
    keys.differenceGroups(found.id, found.open, found.explained),
    () => call(api.differenceGroups, { params }),
    {
      // Rows stay while the answer to one of them is fetched, and so does the focus.
      keepPreviousData: true,
    },
  );
  if (failed !== undefined && !data) return <Problem error={failed} />;
  if (!data) return <Loading what="the differences" />;
  const kinds = gravest.filter((kind) => data.groups.some((group) => group.kind === kind));
  const openOf = (kind: DifferenceKind) =>
    data.groups.filter((group) => group.kind === kind).reduce((sum, group) => sum + group.open, 0);
  const ask = (given: Asking) => {
    setReason('');
    setAsking(given);
  };
  const explain = (group: DifferenceGroup, why: string, row: HTMLElement | null) => {
    // Rows of before the last answer are only looked at: their next state is on its way.
    if (busy || isLoading) return;
    void change(
      api.explain,
      { kind: group.kind, folder: group.folder, ordinals: null, reason: why },
      { id: found.id },
    );
    toNext(row);
  };
  const withdraw = (group: DifferenceGroup) =>
    void change(
      api.explain,
      { kind: group.kind, folder: group.folder, ordinals: null, reason: null },
      { id: found.id },
    );
  return (
    <>
      {!asking && <Problem error={error} onClose={forgetError} />}
      {open && found.open > 0 && (
        <p className="small-print mb-0 no-print">
          In a row with focus <kbd>1</kbd> <kbd>2</kbd> <kbd>3</kbd> answer, <kbd>↓</kbd> goes to the next.
        </p>
      )}
      {kinds.map((kind) => {
        const groups = data.groups.filter((group) => group.kind === kind);
        const count = groups.reduce((sum, group) => sum + group.count, 0);
        return (
          <section key={kind} className="difference-kind">
            <h4>
              {count.toLocaleString('en')}{' '}
              {describeKind(
                kind,
                groups.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
              )}
              {open && openOf(kind) > 0 && (
                <Button
                  size="sm"
                  variant="quiet"
                  className="ms-2 no-print"
                  onClick={() => ask({ kind, folder: null, count: openOf(kind) })}
                >
                  Explain all {openOf(kind).toLocaleString('en')}
                </Button>
              )}
            </h4>
            <ul className="check-rows">
              {(all ? groups : groups.slice(0, shownGroups)).map((group) => (
                <li
                  key={group.folder}
                  className="difference-row"
                  data-open={open && group.open > 0}
                  onKeyDown={(event) => {
                    // With a modifier it is the browser’s.
                    if (event.ctrlKey || event.metaKey || event.altKey) return;
                    if (event.key === 'ArrowDown' && toNext(event.currentTarget)) event.preventDefault();
                    if (!open || group.open === 0) return;
                    if (!/^[123]$/.test(event.key)) return;
                    // Elsewhere these keys go to the stages of the move.
                    event.stopPropagation();
                    const why = usual[kind][Number(event.key) - 1];
                    if (why !== undefined) explain(group, why, event.currentTarget);
                    else ask({ kind, folder: group.folder, count: group.open });
                  }}
                >
                  <details>
                    <summary>
                      <span className="mono">{group.folder === '' ? 'top folder' : group.folder}</span>{' '}
                      {group.count.toLocaleString('en')}, {printBytes(group.sizeBytes, 'decimal')}{' '}
                      <StateOf group={group} />
                    </summary>
                    <Files id={found.id} group={group} />
                  </details>
                  {open && group.open > 0 && (
                    <span
                      className="usual-reasons no-print"
                      role="group"
                      aria-label={`Reason for ${kind} in ${group.folder === '' ? 'the top folder' : group.folder}`}
                    >
                      {usual[kind].map((why) => (
                        <button
                          key={why}
                          type="button"
                          onClick={({ currentTarget }) => explain(group, why, currentTarget.closest('li'))}
                        >
                          {why}
                        </button>
                      ))}
                      <button
                        type="button"
                        onClick={() => ask({ kind, folder: group.folder, count: group.open })}
                        aria-label={`Explain ${kind} in ${group.folder === '' ? 'the top folder' : group.folder}`}
                      >
                        Other reason
                      </button>
                    </span>
                  )}
                  {open && group.open === 0 && group.count > group.noise && (
                    <button
                      type="button"
                      className="btn-plain no-print"
                      disabled={busy}
                      onClick={() => withdraw(group)}
                      aria-label={`Withdraw what was said of ${kind} in ${group.folder === '' ? 'the top folder' : group.folder}`}
                    >
                      Withdraw
                    </button>
                  )}
                </li>
              ))}
            </ul>
            {!all && groups.length > shownGroups && (
              <button type="button" className="btn-plain" onClick={() => setAll(true)}>
                {groups.length - shownGroups} more folders
              </button>
            )}
          </section>
        );
      })}
      {asking && (
        <FormDialog
          title={`${asking.count.toLocaleString('en')} ${asking.kind}${asking.folder === null ? '' : ` in ${asking.folder || 'the top folder'}`}: why?`}
          action="Save the reason"
          error={error}
          busy={busy}
          onClose={() => setAsking(undefined)}
          onSubmit={() =>
            void change(
              api.explain,
              { kind: asking.kind, folder: asking.folder, ordinals: null, reason },
              { id: found.id },
            ).then((done) => done && setAsking(undefined))
          }
        >
          {(asking.kind === 'missing' || asking.kind === 'changed') && (
            <p className="caution">
              The backup still has {asking.count === 1 ? 'it as it was' : 'them as they were'}: restore from
              there first, unless the owner says otherwise.
            </p>
          )}
          <Field label="The reason, and who says so" hint="It is printed on the sheet and in the CSV">
            {(ids) => (
              <Form.Control
                {...ids}
                autoFocus
                required
                maxLength={500}
                value={reason}
                onChange={({ target }) => setReason(target.value)}
              />
            )}
          </Field>
        </FormDialog>
      )}
    </>
  );
}

/** Puts the focus on the next difference that needs a reason; false where there is none. */
function toNext(row: HTMLElement | null): boolean {
  const rows = [...document.querySelectorAll<HTMLElement>('.difference-row[data-open="true"]')];
  const at = row === null ? -1 : rows.indexOf(row);
  const next = rows[at + 1]?.querySelector<HTMLElement>('.usual-reasons button');
  next?.focus();
  return next != null;
}

function StateOf({ group }: { readonly group: DifferenceGroup }) {
  if (group.open > 0) return <strong>{group.open === group.count ? 'open' : `${group.open} open`}</strong>;
  return <span className="soft">{group.noise === group.count ? 'made by the system' : 'explained'}</span>;
}

function Files({ id, group }: { readonly id: string; readonly group: DifferenceGroup }) {
  const { move } = useOpenMove();
  const { data, error } = useSWR(keys.differences(id, group), () =>
    call(api.differences, {
      params: { reference: move.reference, id },
      query: { kind: group.kind, folder: group.folder, limit: 500 },
    }),
  );
  if (error !== undefined && !data) return <Problem error={error} />;
  if (!data) return <Loading what="the files" />;
  return (
    <ul className="small-print mb-1">
      {data.differences.map(({ ordinal, pathBefore, pathAfter, reason, reasonBy, noise, trouble }) => (
        <li key={ordinal}>
          <span className="mono">{pathBefore ?? pathAfter}</span>
          {pathBefore !== null && pathAfter !== null && pathBefore !== pathAfter && (
            <>
              {' → '}
              <span className="mono">{pathAfter}</span>
            </>
          )}
          {trouble !== null && ` (${trouble.replaceAll('-', ' ')})`}
          {noise !== null && `: ${noise}`}
          {reason !== null && `: ${reason} (${reasonBy ?? ''})`}
        </li>
      ))}
      {group.count > data.differences.length && (
        <li>and {group.count - data.differences.length} more, in the CSV</li>
      )}
    </ul>
  );
}
