import { printCount } from '@ulvane/core/quantity';
import { Day, Instant } from '../../shell/Instant';
import { api } from '@ulvane/contract';
import { isClosed } from '@ulvane/core/record';
import { blockingUnknowns } from '@ulvane/core/decide';
import {
  completeness,
  contradictionsOf,
  describeFact,
  disagreement,
  factKeys,
  factsOfSomeWays,
  factTexts,
  valueOf,
  type FactKey,
} from '@ulvane/core/survey';
import { useState } from 'react';
import { useMay } from '../../api/useSession';
import { useChange } from '../../api/useMove';
import { SurveyIntake } from '../../intake/SurveyIntake';
import { Problem } from '../../shell/Problem';
import { useWhatWouldChange } from '../../workers/useChoiceWork';
import { useOpenMove } from '../MoveContext';
import { useChoice, useDecideInput } from '../readings';
import { BlockingUnknowns } from './BlockingUnknowns';
import { EnterFact } from './EnterFact';
import { FactsSheet } from './FactsSheet';

const sourceWords = {
  collector: 'collector',
  imported: 'survey file',
  'practice-machine': 'practice machine',
  typed: 'typed',
} as const;

/** One other advice weighs more than any number of candidates that wait. */
const adviceWeighs = 1000;

function matterText(matter: number): string {
  if (matter >= adviceWeighs) return ' could change the advice by itself';
  return matter > 0 ? ` ${printCount(matter, 'option')} ${matter === 1 ? 'waits' : 'wait'} for it` : '';
}

/** The facts of the device: what is known, from where and since when, and how to find out the rest. */
export function SurveyStage() {
  const { view, move, house } = useOpenMove();
  const { change, error, forgetError } = useChange(view);
  const may = useMay();
  const [editing, setEditing] = useState<FactKey>();
  const { knownCount, unknowns: open } = completeness(move.facts);
  const unknownKeys = new Set(open.map(({ key }) => key));
  const ranked = useWhatWouldChange(useDecideInput())?.unknowns ?? [];
  const matters = new Map(
    ranked.map(({ key, otherAdvices, waiting }) => [key, otherAdvices * adviceWeighs + waiting]),
  );
  const unknowns = [...open].sort((a, b) => (matters.get(b.key) ?? 0) - (matters.get(a.key) ?? 0));
  // Facts that block although they are none of the open ones, such as used bytes of a known partition.
  const partly = blockingUnknowns(useChoice(), move.facts).filter(({ key }) => !unknownKeys.has(key));
  const editable = may.write && !isClosed(move);
  const asksOnSheet = editable && move.surveys.length > 0;
  const groups = [...new Set(factKeys.map((key) => factTexts[key].group))];
  const lastSurvey = move.surveys.at(-1);

  return (
    <>
      {asksOnSheet && <FactsSheet />}
      <div className="columns wide-left">
        <section className="sheet">
          <div className="page-head">
            <h2>Facts</h2>
            <span className="soft">
              {knownCount} known, {unknowns.length} unknown
            </span>
          </div>
          <Problem error={error} onClose={forgetError} />
          {contradictionsOf(move.facts, house.catalogue).map(({ sentence }) => (
            <p key={sentence} className="notice" role="alert">
              {sentence} Until then both count as unknown.
            </p>
          ))}
          <table className="table facts">
            <thead>
              <tr>
                <th scope="col">Fact</th>
                <th scope="col">Value</th>
                <th scope="col">From</th>
                <th scope="col">
                  <span className="visually-hidden">Change</span>
                </th>
              </tr>
            </thead>
            {groups.map((group) => (
              <tbody key={group}>
                <tr>
                  <th scope="rowgroup" colSpan={4}>
                    {group.charAt(0).toUpperCase() + group.slice(1)}
                  </th>
                </tr>
                {factKeys
                  .filter(
                    (key) =>
                      factTexts[key].group === group &&
                      (move.facts[key] !== undefined ||
                        unknownKeys.has(key) ||
                        factsOfSomeWays.includes(key)),
                  )
                  .map((key) => (
                    <FactRow key={key} factKey={key} onEdit={editable ? () => setEditing(key) : undefined} />
                  ))}
              </tbody>
            ))}
          </table>
        </section>
        <div>
          {editable && (
            <section className="sheet no-print">
              <h2>{move.surveys.length === 0 ? 'Run the survey' : 'Run the survey again'}</h2>
              <SurveyIntake
                reference={move.reference}
                onTake={({ text }) => change(api.takeSurvey, { text })}
              />
            </section>
          )}
          {partly.length > 0 && (
            <section className="sheet">
              <h2>Known in part: what is missing</h2>
              <BlockingUnknowns unknowns={partly} onEnter={editable ? setEditing : undefined} />
            </section>
          )}
          {unknowns.length > 0 && !asksOnSheet && (
            <section className="sheet">
              <h2>{unknowns.length} unknown: how to find out</h2>
              <p className="small-print">What matters most to the choice comes first.</p>
              <ul className="check-rows">
                {unknowns.map(({ key, label, howToFind }) => (
                  <li key={key}>
                    <strong>{label}</strong>
                    <span className="soft">{matterText(matters.get(key) ?? 0)}</span>
                    <br />
                    <span className="soft">{howToFind}</span>{' '}
                    {editable && (
                      <button
                        type="button"
                        className="btn-plain no-print"
                        onClick={() => setEditing(key)}
                        aria-label={`Enter: ${label}, from the list of unknowns`}
                      >
                        Enter
                      </button>
                    )}
                  </li>
                ))}
              </ul>
            </section>
          )}
          {lastSurvey && (
            <section className="sheet">
              <h2>Surveys</h2>
              <ul className="check-rows">
                {[...move.surveys].reverse().map((survey) => (
                  <li key={survey.importedAt + survey.takenAt}>
                    <Instant at={survey.takenAt} /> by the {sourceWords[survey.source]}, imported by{' '}
                    {survey.by}
                  </li>
                ))}
              </ul>
              {lastSurvey.rootWouldAdd.length > 0 && (
                <p className="small-print mb-0">
                  As root the collector would also read: {lastSurvey.rootWouldAdd.join(', ')}.
                </p>
              )}
            </section>
          )}
        </div>
        {editing !== undefined && <EnterFact factKey={editing} onClose={() => setEditing(undefined)} />}
      </div>
    </>
  );
}

function FactRow({
  factKey,
  onEdit,
}: {
  readonly factKey: FactKey;
  readonly onEdit: (() => void) | undefined;
}) {
  const { move } = useOpenMove();
  const fact = move.facts[factKey];
  const value = valueOf(move.facts, factKey);
  const other = disagreement(move.facts, factKey);
  const { label } = factTexts[factKey];
  const isAsked = !factsOfSomeWays.includes(factKey);
  return (
    <tr className={fact || !isAsked ? '' : 'unknown'}>
      <td>{label}</td>
      <td className={factKey === 'serial' ? 'mono' : undefined}>
        {value === undefined ? (
          <em className="soft">{isAsked ? 'unknown' : 'nobody has looked; only some ways ask for it'}</em>
        ) : (
          describeFact(factKey, value)
        )}
        {other && (
          <div className="small-print unlike">
            {other.source === 'typed' ? 'Typed' : 'Measured'}: {describeFact(factKey, other.value)},{' '}
            <Day at={other.at} />. The two differ.
          </div>
        )}
      </td>
      <td className="small-print">
        {fact && (
          <>
            {sourceWords[fact.source]}
            {fact.by && ` by ${fact.by}`}, <Day at={fact.at} />
          </>
        )}
      </td>
      <td className="number">
        {onEdit && (
          <button
            type="button"
            className="btn-plain no-print"
            onClick={onEdit}
            aria-label={`${fact ? 'Change' : 'Enter'}: ${label}`}
          >
            {fact ? 'Change' : 'Enter'}
          </button>
        )}
      </td>
    </tr>
  );
}
