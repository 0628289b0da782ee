import type { MoveRow } from '@ulvane/contract';
import { assess } from '@ulvane/core/assess';
import { findModel, findRelease, releaseTitle, type Catalogue } from '@ulvane/core/catalogue';
import { contradictionsOf, undisputedFacts, valueOf } from '@ulvane/core/survey';
import Modal from 'react-bootstrap/Modal';
import { Link } from 'react-router';
import { useMoveView } from '../api/useMove';
import { Judgements } from '../drawing/Judgements';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';

type CellReasonsProps = {
  readonly row: MoveRow;
  readonly releaseId: string;
  readonly catalogue: Catalogue;
  readonly onClose: () => void;
};

/** Why a device stands as it does against a release. */
export function CellReasons({ row, releaseId, catalogue, onClose }: CellReasonsProps) {
  const { data: view, error } = useMoveView(row.reference);
  const release = findRelease(catalogue, releaseId);
  const given = view?.move.facts;
  const facts = given && undisputedFacts(given, contradictionsOf(given, catalogue));
  const model =
    facts &&
    findModel(catalogue, valueOf(facts, 'maker'), valueOf(facts, 'model'), valueOf(facts, 'year')).model;
  return (
    <Modal show onHide={onClose} aria-labelledby="cell-reasons">
      <Modal.Header closeButton>
        <Modal.Title id="cell-reasons" as="h2">
          {row.device} against {release ? releaseTitle(release) : releaseId}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <Problem error={error} />
        {!view && error === undefined && <Loading what={row.reference} />}
        {facts && release && <Judgements judgements={assess(release, { facts, model }).judgements} />}
        <p className="mb-0">
          <Link to={`/moves/${row.reference}/decide`}>Open {row.reference} on Decide</Link>
        </p>
      </Modal.Body>
    </Modal>
  );
}
