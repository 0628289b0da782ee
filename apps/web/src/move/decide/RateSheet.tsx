import { printCount, printMinutes } from '@ulvane/core/quantity';
import {
  contextFor,
  presentBecomes,
  whyAdvised,
  whyBehind,
  type Candidate,
  type Choice,
  type DecideInput,
} from '@ulvane/core/decide';
import { conflictText, isApart, routes } from '@ulvane/core/route';
import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { HandsBar } from '../../drawing/HandsBar';
import { conflictsOf } from './conflicts';
import { SupportBar } from '../../drawing/SupportBar';

type RateSheetProps = {
  readonly input: DecideInput;
  readonly choice: Choice;
  /** The advice first; at most two more. */
  readonly shown: readonly Candidate[];
  readonly isChosen: (candidate: Candidate) => boolean;
  readonly onChoose: ((candidate: Candidate) => void) | undefined;
};

/** An hour is as long in every column. */
const hourPixels = 50;
const maxHours = 6;

/** The advice and what stands behind it, on the same rows and scales: a bar is compared with the bar beside it. */
export function RateSheet({ input, choice, shown, isChosen, onChoose }: RateSheetProps) {
  const { advised } = choice;
  const longest = Math.max(...shown.map((one) => one.handsOnMinutes + one.waitingMinutes), 60);
  const hours = Math.ceil(longest / 60);
  const width = Math.min(hours, maxHours) * hourPixels;
  const heading = (candidate: Candidate, index: number) => {
    if (candidate !== advised)
      return `${index === 1 ? 'Second' : 'Third'}: ${candidate.points.toFixed(0)} points`;
    if (candidate.status !== 'allowed') return 'Nothing is allowed yet; the nearest';
    if (candidate.leads) return 'Advice: nothing has to be done';
    return isApart(candidate)
      ? 'Advice: nothing else is allowed yet'
      : `Advice: ${candidate.points.toFixed(0)} of 100 points by the house rules`;
  };
  const rows: readonly (readonly [string, string, (candidate: Candidate) => ReactNode])[] = [
    [
      'Why',
      '',
      (candidate) => (
        <Sentences
          list={candidate === advised ? whyAdvised(input, candidate) : whyBehind(input, choice, candidate)}
        />
      ),
    ],
    [
      'Lost',
      '',
      (candidate) => {
        const context = contextFor(input, candidate);
        return (
          <>
            {candidate.loses.length === 0 ? 'Nothing.' : `${sentenceCase(candidate.loses.join(', '))}.`}{' '}
            <span className="soft">{context && presentBecomes(candidate.routeId, context)}</span>
          </>
        );
      },
    ],
    ...(shown.some((one) => conflictsOf(input, one).length > 0)
      ? [
          [
            'Set-up',
            '',
            (candidate: Candidate) =>
              conflictsOf(input, candidate).length === 0 ? (
                'Nothing is against them.'
              ) : (
                <details>
                  <summary>
                    {printCount(conflictsOf(input, candidate).length, 'contradiction')}, with ways out
                  </summary>
                  <Sentences list={conflictsOf(input, candidate).map(conflictText)} />
                </details>
              ),
          ] as const,
        ]
      : []),
    [
      'Time',
      `0 to ${Math.min(hours, maxHours)} hours`,
      (candidate) => (
        <>
          <strong>{printMinutes(candidate.handsOnMinutes)}</strong> hands-on,{' '}
          <strong>{printMinutes(candidate.waitingMinutes)}</strong> waiting
          <div style={{ width, maxWidth: '100%' }}>
            <HandsBar
              handsOnMinutes={candidate.handsOnMinutes}
              waitingMinutes={candidate.waitingMinutes}
              fullMinutes={(width / hourPixels) * 60}
            />
          </div>
        </>
      ),
    ],
    [
      'Supported',
      '0 to 6 years',
      (candidate) => (
        <>
          {candidate.routeId === 'replace'
            ? 'a new system'
            : candidate.supportedUntil === null
              ? 'without an end'
              : `until ${candidate.supportedUntil}`}
          {candidate.routeId !== 'replace' && (
            <SupportBar today={input.today} until={candidate.supportedUntil} />
          )}
        </>
      ),
    ],
    [
      'Cost, undo',
      '',
      (candidate) => (
        <>
          <strong>{candidate.cost === 0 ? 'No cost.' : `${candidate.cost} in parts and licences.`}</strong>{' '}
          {routes[candidate.routeId].writesOver === 'nothing' ? (
            candidate.values.reversible >= 0.75 ? (
              'Can be undone.'
            ) : (
              'Can be undone for some days.'
            )
          ) : (
            <>
              <span className="line-mark" aria-hidden="true" /> Crosses the Line.
            </>
          )}
        </>
      ),
    ],
  ];
  return (
    <table className="rate-sheet advice" aria-label="The advice, and what stands behind it">
      <thead>
        <tr>
          <th scope="col">
            <strong>{choice.candidates.length} options</strong>
            <br />
            {choice.candidates.filter(({ status }) => status === 'allowed').length} possible
          </th>
          {shown.map((candidate, index) => (
            <th key={candidate.title} scope="col" className={candidate === advised ? 'is-advice' : undefined}>
              <span className="head">
                <span>
                  <span className="soft d-block">{heading(candidate, index)}</span>
                  <span className="option-title">{candidate.title}</span>
                </span>
                {isChosen(candidate) ? (
                  <span className="tag">chosen</span>
                ) : (
                  onChoose && (
                    <Button
                      {...(candidate === advised ? {} : { size: 'sm' as const })}
                      variant={candidate === advised ? 'primary' : 'quiet'}
                      onClick={() => onChoose(candidate)}
                    >
                      {candidate === advised ? 'Choose this option' : 'Choose'}
                      <span className="visually-hidden">: {candidate.title}</span>
                    </Button>
                  )
                )}
              </span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, scale, cell]) => (
          <tr key={name}>
            <th scope="row">
              {name}
              {scale !== '' && <span className="d-block">{scale}</span>}
            </th>
            {shown.map((candidate) => (
              <td key={candidate.title} className={candidate === advised ? 'is-advice' : undefined}>
                {cell(candidate)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** @example sentenceCase('everything on that disk') // 'Everything on that disk' */
function sentenceCase(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

function Sentences({ list }: { readonly list: readonly string[] }) {
  return (
    <ol className="why">
      {list.map((sentence) => (
        <li key={sentence}>{sentence}</li>
      ))}
    </ol>
  );
}
