import { api } from '@ulvane/contract';
import { checklistAnswers, checklistOf, type ChecklistLine } from '@ulvane/core/backup';
import { isClosed } from '@ulvane/core/record';
import { useState, type KeyboardEvent } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { z } from 'zod';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Field } from '../../shell/Field';
import { Problem } from '../../shell/Problem';
import { useDraft } from '../../shell/useDraft';
import { useOpenMove } from '../MoveContext';

const DraftSchema = z.record(z.string(), z.object({ answer: z.enum(checklistAnswers), reason: z.string() }));
type Draft = z.infer<typeof DraftSchema>;
type Answer = Draft[string]['answer'];

function draftOf(text: string): Draft {
  try {
    return DraftSchema.parse(JSON.parse(text));
  } catch {
    // Nothing was typed, or by another release.
    return {};
  }
}

const answerOf = ({ state }: ChecklistLine): Answer | 'listed' => (state === 'not-needed' ? 'none' : state);

/** Keys that answer the line in focus. */
const answerKeys: Readonly<Record<string, Answer>> = { n: 'none', '0': 'ask' };

/** What is often forgotten: every line answered in one form with Yes, No or Ask, by pointer or by key. */
export function Checklist({ onAdd }: { readonly onAdd: (line: ChecklistLine) => void }) {
  const { view, move, house } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const [text, setText, forget] = useDraft(`checklist ${move.reference}`);
  const [atId, setAtId] = useState<string>();
  const open = may.write && !isClosed(move);
  const lines = checklistOf(move.facts, house.catalogue, move.dataSets, move);
  const draft = draftOf(text);
  const given = lines.flatMap((line) => {
    const own = draft[line.id];
    const isNew =
      own !== undefined &&
      line.state !== 'listed' &&
      (own.answer !== answerOf(line) ||
        (own.answer === 'none' && own.reason !== (line.notNeeded?.reason ?? '')));
    return isNew ? [{ id: line.id, ...own }] : [];
  });
  const shown = (line: ChecklistLine) =>
    line.state === 'listed' ? 'listed' : (draft[line.id]?.answer ?? answerOf(line));
  const count = (state: ReturnType<typeof shown>) => lines.filter((line) => shown(line) === state).length;
  const left = count('open');
  const asked = count('ask');
  const at = lines.find(({ id }) => id === atId) ?? lines.find((line) => shown(line) === 'open');
  const answer = (line: ChecklistLine, next: Answer) => {
    const before = draft[line.id] ?? { reason: line.notNeeded?.reason ?? '' };
    // The same answer again opens the line.
    setText(
      JSON.stringify({ ...draft, [line.id]: { ...before, answer: shown(line) === next ? 'open' : next } }),
    );
    setAtId(line.id);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLElement>, line: ChecklistLine) => {
    // With a modifier it is the browser’s: Ctrl+0 sets the zoom back.
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const key = event.key.toLowerCase();
    const step = key === 'arrowdown' ? 1 : key === 'arrowup' ? -1 : 0;
    const next = answerKeys[key];
    if (step === 0 && next === undefined && key !== 'y') return;
    event.preventDefault();
    event.stopPropagation();
    if (key === 'y') return onAdd(line);
    if (next !== undefined) answer(line, next);
    const neighbour = lines[lines.indexOf(line) + (step === 0 ? 1 : step)];
    if (neighbour)
      document
        .querySelector<HTMLElement>(`[data-line="${CSS.escape(neighbour.id)}"] button:not(:disabled)`)
        ?.focus();
  };
  return (
    <section className="sheet" aria-labelledby="checklist">
      <div className="page-head">
        <h2 id="checklist">Often forgotten</h2>
        <span className="soft">
          {lines.length} questions: {lines.length - left - asked} answered, {asked} to ask the owner, {left}{' '}
          open
        </span>
        {open && (
          <span className="ms-auto no-print">
            <span className="small-print">
              <kbd>Y</kbd> <kbd>N</kbd> <kbd>0</kbd> answer, <kbd>↓</kbd> next{' '}
            </span>
            <Button
              size="sm"
              variant="quiet"
              disabled={busy || given.length === 0}
              onClick={() =>
                void change(api.answerChecklist, { answers: given }).then((done) => {
                  if (done) forget();
                })
              }
            >
              Save answers{given.length > 0 && ` (${given.length})`}
            </Button>
          </span>
        )}
      </div>
      <p className="small-print mb-1">
        Yes: it is a data set. No: there is none, or it is not needed. Ask: the owner has to say.
      </p>
      <Problem error={error} onClose={forgetError} />
      <ul className="answer-grid">
        {lines.map((line) => {
          const state = shown(line);
          const button = (value: Answer, label: string) => (
            <button
              type="button"
              aria-pressed={state === value}
              aria-label={`${line.name}: ${label}`}
              disabled={!open || line.state === 'listed'}
              onClick={() => answer(line, value)}
              onKeyDown={(event) => onKeyDown(event, line)}
            >
              {label}
            </button>
          );
          return (
            <li key={line.id} data-line={line.id} data-state={state} onFocus={() => setAtId(line.id)}>
              <span title={line.howToGetItOut}>{line.name}</span>
              <span className="answers" role="group" aria-label={line.name}>
                <button
                  type="button"
                  aria-pressed={state === 'listed'}
                  aria-label={`${line.name}: Yes`}
                  disabled={!open || line.state === 'listed'}
                  onClick={() => onAdd(line)}
                  onKeyDown={(event) => onKeyDown(event, line)}
                >
                  Yes
                </button>
                {button('none', 'No')}
                {button('ask', 'Ask')}
              </span>
            </li>
          );
        })}
      </ul>
      {at && (
        <div className="answer-at">
          <p className="mb-1">
            <strong>{at.name}</strong>
            {at.because !== '' && <span className="soft"> of {at.because}</span>}: {at.howToGetItOut}{' '}
            {at.notNeeded && (
              <span className="soft">
                {at.notNeeded.by} answered No{at.notNeeded.reason !== '' && `: ${at.notNeeded.reason}`}.
              </span>
            )}
            {at.asked && <span className="soft">{at.asked.by} notes: ask the owner.</span>}
          </p>
          {open && shown(at) === 'none' && (
            <Field
              label={`Who says so, or why: ${at.name}`}
              hint="Optional. The owner keeps all bookmarks at work"
            >
              {(ids) => (
                <Form.Control
                  {...ids}
                  maxLength={300}
                  value={draft[at.id]?.reason ?? at.notNeeded?.reason ?? ''}
                  onChange={({ target }) =>
                    setText(JSON.stringify({ ...draft, [at.id]: { answer: 'none', reason: target.value } }))
                  }
                />
              )}
            </Field>
          )}
        </div>
      )}
      <p className="caution mb-0">
        Saved passwords and keys only with the owner’s consent and present; wipe every export after the
        restore.
      </p>
    </section>
  );
}
