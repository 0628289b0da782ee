import { api } from '@ulvane/contract';
import { blockingUnknowns, decide, type Candidate } from '@ulvane/core/decide';
import { findRelease, releaseTitle } from '@ulvane/core/catalogue';
import { printCount } from '@ulvane/core/quantity';
import { decideInput } from '@ulvane/core/record';
import { factKeys, factTexts, systemDisk, valueOf, type Facts } from '@ulvane/core/survey';
import { useCallback, useDeferredValue, useMemo, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { z } from 'zod';
import { useChange } from '../../api/useMove';
import { OptionTicks } from '../../drawing/OptionTicks';
import { Problem } from '../../shell/Problem';
import { useDraft } from '../../shell/useDraft';
import { useDay } from '../../shell/useDay';
import { useSizes } from '../../shell/useSizes';
import { useOpenMove } from '../MoveContext';
import { useWhatWouldChange } from '../../workers/useChoiceWork';
import { useDecideInput } from '../readings';
import { FactRow } from './SheetRow';
import { PartitionRows } from './PartitionRows';
import { MeasuredFacts } from './MeasuredFacts';
import { draftOfText, emptyDraft, measuredKeys, readDraft, textOfDraft, type SheetKey } from './sheetDraft';

const isSame = (a: Candidate, b: Candidate) => a.routeId === b.routeId && a.releaseId === b.releaseId;

/**
 * The facts that decide, on one sheet: those that most options wait for first, every answer with what it leads to, the
 * advice above, and one Save below. What is not known may stay open.
 */
export function FactsSheet() {
  const { view, move, house } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const sizes = useSizes();
  const today = useDay();
  const form = useRef<HTMLFormElement>(null);
  const [kept, keep, forget] = useDraft(`${move.reference} facts sheet`);
  const draft = useMemo(() => draftOfText(kept), [kept]);
  const setDraft = (next: typeof emptyDraft) => keep(textOfDraft(next));
  const [focused, setFocused] = useState<SheetKey>();
  const told = useWhatWouldChange(useDecideInput());
  const choiceOf = useMemo(
    () => (facts: Facts) => decide(decideInput({ ...move, facts }, house, today)),
    [move, house, today],
  );
  // The rows stay while answers are given: they follow what is saved.
  const asked = useMemo(() => {
    const blocking = blockingUnknowns(choiceOf(move.facts), move.facts);
    const waiting = new Map<SheetKey, number>();
    for (const one of blocking)
      if (one.key !== 'disks') waiting.set(one.key, (waiting.get(one.key) ?? 0) + one.waiting);
    for (const { key, otherAdvices } of told?.unknowns ?? [])
      if (key !== 'disks' && otherAdvices > 0 && !waiting.has(key)) waiting.set(key, 0);
    return [...waiting].toSorted(([, a], [, b]) => b - a);
  }, [choiceOf, move.facts, told]);
  // What is answered here and was answered by somebody else meanwhile stays in sight until it is saved.
  const rows = useMemo(
    () => [
      ...asked,
      ...factKeys
        .filter((key): key is SheetKey => key !== 'disks')
        .filter(
          (key) =>
            (draft.texts[key] ?? '') !== '' &&
            !asked.some(([one]) => one === key) &&
            !(measuredKeys.includes(key) && move.facts[key] !== undefined),
        )
        .map((key) => [key, 0] as const),
    ],
    [asked, draft.texts, move.facts],
  );
  // What is saved is what is typed now; only the advice may come a moment later.
  const now = useMemo(
    () => readDraft(move.facts, draft, house.catalogue, sizes),
    [move.facts, draft, house.catalogue, sizes],
  );
  const deferred = useDeferredValue(draft);
  const read = useMemo(
    () => readDraft(move.facts, deferred, house.catalogue, sizes),
    [move.facts, deferred, house.catalogue, sizes],
  );
  const choice = useMemo(() => choiceOf(read.facts), [choiceOf, read.facts]);
  const { advised, candidates } = choice;
  // Of what is deferred only, so that typing does not wait for it.
  const leadsTo = useCallback(
    (key: SheetKey, text: string) => {
      const tried = { ...deferred, texts: { ...deferred.texts, [key]: text } };
      const next = choiceOf(readDraft(move.facts, tried, house.catalogue, sizes).facts).advised;
      return isSame(next, advised) ? 'advice holds' : `changes it: ${next.title}`;
    },
    [deferred, choiceOf, move.facts, house.catalogue, sizes, advised],
  );
  const disks = draft.disks ?? valueOf(move.facts, 'disks') ?? [];
  const disk = systemDisk(disks) ?? disks[0];
  const answered = Object.keys(now.values).length;
  if (rows.length === 0 && disk === undefined) return null;
  // Those that wait for the fact in focus come first among those that wait.
  const waiting = focused ? candidates.filter((one) => waitsFor(one, focused)) : [];
  const held = waiting.length;
  const ticks = [
    ...candidates.filter(({ status }) => status === 'allowed'),
    ...waiting,
    ...candidates.filter((one) => one.status === 'undecided' && !waiting.includes(one)),
    ...candidates.filter(({ status }) => status === 'excluded'),
  ];
  // Where the advice leads to no release, the best that does.
  const ahead = candidates.find(({ releaseId, status }) => releaseId !== null && status !== 'excluded');
  const targetId = advised.releaseId ?? ahead?.releaseId ?? undefined;
  const assessment = choice.assessments.find(({ releaseId }) => releaseId === targetId);
  const target = findRelease(house.catalogue, targetId);
  const count = (status: Candidate['status']) => candidates.filter((one) => one.status === status).length;
  const save = async () => {
    const wrong = Object.keys(now.problems)[0];
    if (wrong !== undefined) {
      form.current?.querySelector<HTMLElement>(`[data-fact="${wrong}"] input`)?.focus();
      return;
    }
    const facts = z.record(z.string(), z.json()).parse(now.values);
    if (await change(api.typeFacts, { facts })) forget();
  };
  return (
    <form
      ref={form}
      className="facts-sheet"
      aria-labelledby="facts-that-decide"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && event.ctrlKey && answered > 0) {
          event.preventDefault();
          void save();
        }
      }}
    >
      <div className="sheet-advice" aria-live="polite">
        <span>
          <span className="soft d-block">Advice now, changes with every answer</span>
          <strong>{advised.title}</strong>
        </span>
        <span>
          <OptionTicks
            options={ticks}
            width={640}
            bracket={{ count: held, words: focused ? heldText(held, rows, focused) : '' }}
          />
          <span className="counts">
            <b>{count('allowed')}</b> possible <b>{count('undecided')}</b>{' '}
            {count('undecided') === 1 ? 'waits' : 'wait'} for an answer <b>{count('excluded')}</b> not
            possible
          </span>
        </span>
      </div>
      <Problem error={error} onClose={forgetError} />
      <h2 id="facts-that-decide">
        Facts that decide{' '}
        <span className="soft">
          {rows.length === 0
            ? 'All of them are known.'
            : `${printCount(rows.length, 'fact')}, in the order of what they unlock`}
        </span>
      </h2>
      <ol className="sheet-rows">
        {rows.map(([key, waiting], index) => (
          <FactRow
            key={key}
            factKey={key}
            number={index + 1}
            waiting={waiting}
            text={draft.texts[key] ?? ''}
            problem={now.problems[key]}
            onText={(text) => setDraft({ ...draft, texts: { ...draft.texts, [key]: text } })}
            onFocus={() => setFocused(key)}
            leadsTo={leadsTo}
          />
        ))}
      </ol>
      {disk && (
        <PartitionRows
          disk={disk}
          from={rows.length + 1}
          onDisk={(next) =>
            setDraft({ ...draft, disks: disks.map((one) => (one.name === next.name ? next : one)) })
          }
        />
      )}
      <MeasuredFacts
        facts={move.facts}
        assessment={assessment}
        target={target ? releaseTitle(target) : ''}
        from={rows.length + 1 + (disk?.partitions.length ?? 0)}
        texts={draft.texts}
        problems={now.problems}
        onText={(key, text) => setDraft({ ...draft, texts: { ...draft.texts, [key]: text } })}
      />
      <div className="sheet-save">
        <span>
          <strong>{printCount(answered, 'new answer')}</strong>, {rows.length} open at first; what is not
          known may stay open
        </span>
        <span className="soft">
          <kbd>Tab</kbd> next fact <kbd>1</kbd> to <kbd>9</kbd> choose <kbd>0</kbd> don’t know <kbd>Ctrl</kbd>{' '}
          <kbd>Enter</kbd> save
        </span>
        <Button type="submit" disabled={busy || answered === 0}>
          Save the answers
        </Button>
      </div>
    </form>
  );
}

/** Whether an option waits for a fact. */
const waitsFor = ({ status, reasons }: Candidate, fact: SheetKey) =>
  status === 'undecided' &&
  reasons.some(({ finding, facts }) => finding === 'unknown' && facts.includes(fact));

function heldText(held: number, rows: readonly (readonly [SheetKey, number])[], fact: SheetKey): string {
  const place = rows.findIndex(([key]) => key === fact);
  return `${held} of them ${held === 1 ? 'waits' : 'wait'} for ${place < 0 ? factTexts[fact].label : `fact ${place + 1}, in focus`}`;
}
