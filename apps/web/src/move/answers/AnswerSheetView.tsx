import { printCount } from '@ulvane/core/quantity';
import { pageLine, type AnsweredPage } from '@ulvane/core/runbook';
import { Printer } from 'lucide-react';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { useMay } from '../../api/useSession';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { useTarget } from '../readings';
import { useSecrets } from '../vault/useSecrets';
import { NetworkNote, PageRows } from './PageRows';
import { SkippedChecks } from './SkippedChecks';
import { PartitionsByHand } from './PartitionsByHand';
import { useAnswerSheet } from './useAnswerSheet';

/** The installer's pages, filled in: a form to go along at the bench, ticked page by page, on screen and on paper. */
export function AnswerSheetView() {
  const { move } = useOpenMove();
  const { sheet, error, forgetError, ...ticks } = useAnswerSheet();
  const vault = useSecrets(move.reference);
  const [refusal, setRefusal] = useState<unknown>();
  const may = useMay();
  const target = useTarget();
  if (!sheet)
    return (
      <p className="notice">
        {move.decision
          ? 'Nothing is installed by this plan, or it cannot be made yet: there are no pages to answer. '
          : 'The pages follow from the release and the route. '}
        <Link to={`/moves/${move.reference}/${move.decision ? 'prepare' : 'decide'}`}>
          {move.decision ? 'See Prepare.' : 'Choose a route on Decide.'}
        </Link>
      </p>
    );
  const { pages, hand, title, skips } = sheet;
  const answered = pages.filter((page, index) => ticks.tickOf(pageLine(page, index))).length;
  const partitionPage = pages.findIndex(({ kind }) => kind === 'partitions');
  const show = async (page: AnsweredPage) => {
    const secret = vault.secrets?.find(({ kind }) => kind === page.secret);
    if (!secret || !may.write) return;
    // S shows a secret, and covers it again.
    if (vault.shown?.id === secret.id) return vault.hide();
    setRefusal(undefined);
    try {
      await vault.show(secret);
    } catch (problem) {
      setRefusal(problem);
    }
  };
  return (
    <section className="answer-sheet" aria-labelledby="answer-sheet">
      <div className="page-head">
        <h2 id="answer-sheet">Answer sheet</h2>
        <span className="soft">
          {title}, {printCount(pages.length, 'page')} of its installer
        </span>
        <span className="ms-auto">
          <strong>
            {answered} of {pages.length}
          </strong>{' '}
          answered
        </span>
        <Button size="sm" variant="quiet" onClick={() => window.print()}>
          <Printer size={15} aria-hidden="true" /> Print
        </Button>
      </div>
      <Problem error={error} onClose={forgetError} />
      <Problem error={refusal} onClose={() => setRefusal(undefined)} />
      <Problem error={vault.error} />
      {pages.length === 0 ? (
        <p className="notice">
          The pages of {title} are not known yet: note them while you install, and{' '}
          <Link to={`/catalogue?kind=releases&id=${target?.id ?? ''}`}>add them to the catalogue</Link>.
        </p>
      ) : (
        <div className={hand ? 'answer-columns' : ''}>
          <div>
            <SkippedChecks skips={skips} ticks={ticks} />
            <PageRows sheet={sheet} ticks={ticks} vault={vault} onShow={(page) => void show(page)} />
            <NetworkNote pages={pages} />
          </div>
          {hand && (
            <PartitionsByHand
              hand={hand}
              page={partitionPage < 0 ? undefined : partitionPage + 1}
              ticks={ticks}
            />
          )}
        </div>
      )}
      <div className="print-only answer-foot">
        <div>Ticked by, date and time</div>
        <div>Second person at the Line</div>
        <div>{move.reference}, printed from Ulvane</div>
      </div>
    </section>
  );
}
