import { factTexts } from '@ulvane/core/survey';
import type { AnsweredPage } from '@ulvane/core/runbook';
import { Link } from 'react-router';
import { useMay } from '../../api/useSession';
import { useOpenMove } from '../MoveContext';
import type { useSecrets } from '../vault/useSecrets';
import { secretWords } from '../vault/words';

type AnswerWordsProps = {
  readonly page: AnsweredPage;
  readonly vault: ReturnType<typeof useSecrets>;
  readonly onShow: (page: AnsweredPage) => void;
};

/** What is entered on a page: typed in boxes, picked filled in, not to be picked struck; a secret covered. */
export function AnswerWords({ page, vault, onShow }: AnswerWordsProps) {
  const { move } = useOpenMove();
  if (page.missing)
    return (
      <span className="answer-missing">
        <Link to={`/moves/${move.reference}/survey`}>{factTexts[page.missing.fact].label} unknown</Link>{' '}
        <span className="soft">{page.missing.howToFind}</span>
      </span>
    );
  return (
    <>
      {page.pieces.map(({ text, as }, index) => {
        const words =
          as === 'bold' ? (
            <b>{text}</b>
          ) : as === 'typed' ? (
            <span className="typed">{text}</span>
          ) : as === 'picked' ? (
            <span className="picked">{text}</span>
          ) : as === 'not-picked' ? (
            <s className="not-picked">{text}</s>
          ) : (
            text
          );
        return (
          // The pieces of a sentence stay where they are.
          <span key={`${index} ${text}`}>{words} </span>
        );
      })}
      {page.secret && <Secret page={page} kind={page.secret} vault={vault} onShow={onShow} />}
      {page.caution !== undefined && (
        <span className="answer-caution">
          <b>Caution:</b> {page.caution}
        </span>
      )}
    </>
  );
}

/** The secret of a page: a covered bar until it is asked for, and never on paper. */
function Secret({
  page,
  kind,
  vault,
  onShow,
}: AnswerWordsProps & { readonly kind: NonNullable<AnsweredPage['secret']> }) {
  const may = useMay();
  const found = vault.secrets?.find((one) => one.kind === kind);
  const name = secretWords[kind];
  if (!found)
    return (
      <span className="soft no-print">
        {vault.secrets ? `No ${name} is in the vault: add it on Prepare.` : 'Reading the vault …'}
      </span>
    );
  const onPaper = <span className="print-only on-screen-only">{name}: on screen only</span>;
  if (vault.shown?.id === found.id)
    return (
      <>
        <span className="no-print" role="status">
          <span className="typed">{vault.shown.value}</span>{' '}
          <button type="button" className="btn-plain" onClick={vault.hide}>
            Cover
          </button>{' '}
          <span className="soft">in {vault.shown.secondsLeft} s</span>
        </span>
        {onPaper}
      </>
    );
  return (
    <>
      <span className="covered no-print" aria-hidden="true" />{' '}
      {may.write && (
        <button
          type="button"
          className="btn-plain no-print"
          onClick={() => onShow(page)}
          aria-label={`Show ${found.label}`}
        >
          Show
        </button>
      )}
      {onPaper}
    </>
  );
}
