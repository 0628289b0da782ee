import { printCount, printMinutes } from '@ulvane/core/quantity';
import {
  isSigned,
  pageLine,
  type AnsweredPage,
  type AnswerSheet,
  type AnswerSource,
} from '@ulvane/core/runbook';
import { Fragment, type KeyboardEvent, type ReactNode } from 'react';
import { areKeysOn } from '../../shell/keySwitch';
import { HandsBar } from '../../drawing/HandsBar';
import { useOpenMove } from '../MoveContext';
import type { useSecrets } from '../vault/useSecrets';
import { AnswerWords } from './AnswerWords';
import { TickBox } from './TickBox';
import type { AnswerTicks } from './useAnswerSheet';

const sources: Readonly<Record<AnswerSource, string>> = {
  survey: 'survey',
  decision: 'decision',
  'house-rule': 'house rule',
  'disk-plan': 'disk plan',
  vault: 'vault',
  release: 'release',
  preparation: 'Prepare',
};

type PageRowsProps = {
  readonly sheet: AnswerSheet;
  readonly ticks: AnswerTicks;
  readonly vault: ReturnType<typeof useSecrets>;
  readonly onShow: (page: AnsweredPage) => void;
};

/** Every page of the installer in its order, what the hand does there, and where the answer comes from. */
export function PageRows({ sheet, ticks, vault, onShow }: PageRowsProps) {
  const { move } = useOpenMove();
  const { pages, line, meanwhileFrom, firstStartFrom } = sheet;
  const end = (from: number) =>
    firstStartFrom !== null && from < firstStartFrom ? firstStartFrom : pages.length;
  const range = (from: number) =>
    end(from) - from === 1 ? `Page ${from + 1} is` : `Pages ${from + 1} to ${end(from)} are`;
  // Where a page has a secret, S shows it from its box.
  const onKey = (event: KeyboardEvent, page: AnsweredPage) => {
    if (event.key !== 's' || !page.secret || !areKeysOn()) return;
    event.preventDefault();
    onShow(page);
  };
  return (
    <table className="answer-pages">
      <thead>
        <tr>
          <th scope="col">Net</th>
          <th scope="col">
            <span className="visually-hidden">Number</span>
          </th>
          <th scope="col">Page</th>
          <th scope="col">
            <span className="visually-hidden">What to do</span>
          </th>
          <th scope="col">Answer</th>
          <th scope="col">From</th>
          <th scope="col">
            <span className="visually-hidden">Entered</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {pages.map((page, index) => (
          <Fragment key={page.id}>
            {line?.page === index && (
              <CutRow>
                <p className="answer-line">
                  <b>The Line</b> {line.does}{' '}
                  {isSigned(move.signatures, line.stepId)
                    ? `Step ${line.stepNumber} is signed in Ulvane.`
                    : `Sign step ${line.stepNumber} in Ulvane first: ${line.first}.`}
                </p>
              </CutRow>
            )}
            {meanwhileFrom === index && (
              <CopyRow minutes={sheet.copyMinutes}>
                <b>Copying starts</b>, {printMinutes(sheet.copyMinutes)}. {range(index)} asked meanwhile.
              </CopyRow>
            )}
            {firstStartFrom === index && (
              <CopyRow minutes={sheet.copyMinutes}>
                <b>{meanwhileFrom === null ? 'Copying and first start' : 'First start'}</b>
                {meanwhileFrom === null ? `, ${printMinutes(sheet.copyMinutes)}` : ''}. {range(index)} asked
                then.
              </CopyRow>
            )}
            <tr data-page={page.id} onKeyDown={(event) => onKey(event, page)}>
              <td className={page.needsNetwork ? 'net needs' : 'net'}>
                <span className="visually-hidden">
                  {page.needsNetwork ? 'Needs the network' : 'Works without a network'}
                </span>
              </td>
              <td className="n">{index + 1}</td>
              <th scope="row">{page.name}</th>
              <td className="soft">{page.hand}</td>
              <td>
                <AnswerWords page={page} vault={vault} onShow={onShow} />
              </td>
              <td className="soft text-nowrap">{page.missing ? 'not known' : sources[page.from]}</td>
              <td className="tick">
                <TickBox line={pageLine(page, index)} ticks={ticks} />
              </td>
            </tr>
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}

/** What lies between two pages, across the table. */
function CutRow({ children }: { readonly children: ReactNode }) {
  return (
    <tr className="cut">
      <td className="net" />
      <td colSpan={6}>{children}</td>
    </tr>
  );
}

/** The installer works by itself for so many minutes, and what is asked then. */
function CopyRow({ minutes, children }: { readonly minutes: number; readonly children: ReactNode }) {
  return (
    <CutRow>
      <p className="answer-copying">
        <span className="answer-bar">
          <HandsBar handsOnMinutes={1} waitingMinutes={minutes} fullMinutes={minutes + 1} />
        </span>
        <span>{children}</span>
      </p>
    </CutRow>
  );
}

/** Which pages need the network, by number. */
export function NetworkNote({ pages }: Pick<AnswerSheet, 'pages'>) {
  const numbers = pages.flatMap(({ needsNetwork }, index) => (needsNetwork ? [index + 1] : []));
  return (
    <p className="soft answer-note">
      {numbers.length === 0
        ? 'No page needs the network.'
        : `Thick bar: ${printCount(numbers.length, 'page')} (${numbers.join(', ')}) ${numbers.length === 1 ? 'needs' : 'need'} the network.`}
    </p>
  );
}
