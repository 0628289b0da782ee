import { dequal } from 'dequal';
import { api } from '@ulvane/contract';
import {
  planTableConversion,
  sameSize,
  surveyedFromTable,
  tableFromSurvey,
  type ConversionOutcome,
  type Resolution,
} from '@ulvane/core/disk';
import { printBothUnits } from '@ulvane/core/quantity';
import { diskWorkContext, isClosed } from '@ulvane/core/record';
import { diskBytesPerSecond, promisedPartitions, type DiskWork } from '@ulvane/core/runbook';
import { diskBytes, diskMark, valueOf, type Disk } from '@ulvane/core/survey';
import { useCallback, useMemo } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Conversion } from '../../disk/Conversion';
import { ConversionResult } from '../../disk/ConversionResult';
import { convertOpen, diskWorker, plannerFor } from '../../disk/diskWorker';
import { DropImage } from '../../disk/DropImage';
import { Layout } from '../../disk/Layout';
import { FixTable } from '../../disk/FixTable';
import { ProblemList } from '../../disk/ProblemList';
import { TableRead } from '../../disk/TableRead';
import { Undo } from '../../disk/Undo';
import { useOpenImage } from '../../disk/useOpenImage';
import { Problem } from '../../shell/Problem';
import { useAnswer } from '../../workers/useAnswer';
import { useOpenMove } from '../MoveContext';
import { useTarget } from '../readings';
import { Capsules } from './Capsules';
import { PlannedWork } from './PlannedWork';

type DiskWorkbenchProps = { readonly disk: Disk; readonly kind: DiskWork['kind'] };

/** One disk of a move: its sectors read, its work planned past the guards, its capsule kept. */
export function DiskWorkbench({ disk, kind }: DiskWorkbenchProps) {
  const { view, move, house } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const release = useTarget();
  const known = useMemo(
    () => ({ sectorBytes: disk.sectorBytes, sectorCount: disk.sectorCount }),
    [disk.sectorBytes, disk.sectorCount],
  );
  const { image, problems, take, close } = useOpenImage(known);
  const surveyed = useMemo(() => tableFromSurvey(disk), [disk]);
  const context = useMemo(() => diskWorkContext(move, house), [move, house]);
  const editable = may.write && !isClosed(move) && !busy;
  const own = move.diskPlan?.disk === disk.name ? move.diskPlan.work : undefined;
  const kept = move.capsules.findLast((capsule) => capsule.disk === disk.name);

  const planner = useMemo(
    () =>
      plannerFor(surveyed, {
        promised: promisedPartitions(disk, context.route),
        bytesPerSecond: diskBytesPerSecond(disk),
      }),
    [surveyed, disk, context.route],
  );
  const askSurvey = useCallback(
    (target: 'gpt' | 'mbr', resolutions: readonly Resolution[]): Promise<ConversionOutcome> =>
      Promise.resolve(
        planTableConversion(surveyed, target, { random: (count) => new Uint8Array(count), resolutions }),
      ),
    [surveyed],
  );
  const askImage = useCallback(
    async (target: 'gpt' | 'mbr', resolutions: readonly Resolution[]): Promise<ConversionOutcome> =>
      kept
        ? await diskWorker().convert(target, resolutions, kept.remembered)
        : await convertOpen(target, resolutions),
    [kept],
  );
  const put = (work: DiskWork | null) => void change(api.planDisk, { disk: disk.name, work });
  const applyToSurvey = () => {
    if (!image) return;
    const disks = (valueOf(move.facts, 'disks') ?? []).map((one) =>
      one.name === disk.name ? surveyedFromTable(one, image.table) : one,
    );
    void change(api.typeFact, { value: disks }, { key: 'disks' });
  };
  const toRunbook = (work: DiskWork) => (
    <ToRunbook
      disk={disk}
      work={work}
      context={context}
      editable={editable}
      planned={dequal(own, work)}
      onPut={() => put(work)}
    />
  );

  return (
    <>
      <Problem error={error} onClose={forgetError} />
      <div>
        {kind === 'layout' ? (
          <Layout
            name={diskMark(disk)}
            table={surveyed}
            release={release}
            planner={planner}
            start={own?.kind === 'layout' ? own.goal : undefined}
          >
            {(goal) => toRunbook({ kind: 'layout', goal })}
          </Layout>
        ) : (
          <Conversion
            key={image?.opening ?? 'survey'}
            name={diskMark(disk)}
            table={image?.table ?? surveyed}
            ask={image ? askImage : askSurvey}
            start={own?.kind === 'convert' ? own.resolutions : []}
          >
            {(plan, resolutions) => (
              <>
                {image ? (
                  <ConversionResult
                    name={diskMark(disk)}
                    serial={disk.serial ?? null}
                    of={plan}
                    result={plan.target}
                    kept={kept?.undo}
                  >
                    {(result) =>
                      editable && (
                        <Button
                          size="sm"
                          className="mt-2"
                          onClick={() =>
                            void change(api.keepCapsule, {
                              disk: disk.name,
                              target: plan.target,
                              remembered: result.remembered,
                              undo: result.capsule,
                            })
                          }
                        >
                          Save the capsule with the move
                        </Button>
                      )
                    }
                  </ConversionResult>
                ) : (
                  <p className="small-print mt-2 mb-1">
                    Planned from the survey: no sector was read. For the exact sectors and the undo capsule
                    drop the disk’s image, or its first and last MiB.
                  </p>
                )}
                {toRunbook({ kind: 'convert', target: plan.target, resolutions: [...resolutions] })}
              </>
            )}
          </Conversion>
        )}
      </div>
      <div className="columns wide-left">
        <div>
          <section className="sheet">
            <h2>
              Sectors of disk <span className="mono">{diskMark(disk)}</span>,{' '}
              {printBothUnits(diskBytes(disk))}
            </h2>
            <DropImage partsAllowed onFiles={(files) => void take(files)} />
            <ProblemList problems={problems} />
            {image && (
              <>
                <p className="mt-2 mb-1 d-flex gap-2">
                  <strong className="me-auto">{image.name}</strong>
                  {editable && sameSize(disk, image.table) && (
                    <Button size="sm" variant="quiet" onClick={applyToSurvey}>
                      Apply to the survey
                    </Button>
                  )}
                  <Button size="sm" variant="quiet" onClick={close}>
                    Close the image
                  </Button>
                </p>
                {!sameSize(disk, image.table) && (
                  <p className="notice">
                    The survey says {printBothUnits(diskBytes(disk))} and this image has{' '}
                    {printBothUnits(image.table.sectorCount * image.table.sectorSizeBytes)}: is it of another
                    disk?
                  </p>
                )}
                <TableRead table={image.table} name={image.name} />
              </>
            )}
          </section>
          {image && (
            <FixTable
              key={image.opening}
              name={diskMark(disk)}
              serial={disk.serial ?? null}
              table={image.table}
            />
          )}
        </div>
        <div>
          <PlannedWork onTakeOut={editable ? () => put(null) : undefined} />
          <Capsules disk={disk} />
          {image && <Undo name={diskMark(disk)} kept={kept?.undo ?? null} />}
        </div>
      </div>
    </>
  );
}

type ToRunbookProps = {
  readonly disk: Disk;
  readonly work: DiskWork;
  readonly context: Parameters<ReturnType<typeof diskWorker>['guarded']>[2];
  readonly editable: boolean;
  readonly planned: boolean;
  readonly onPut: () => void;
};

/** The way into the runbook, past the guards: each that is closed says why and what opens it. */
function ToRunbook({ disk, work, context, editable, planned, onPut }: ToRunbookProps) {
  const { move } = useOpenMove();
  const text = JSON.stringify(work);
  // The same question for the same work, however often it is made anew.
  const question = useMemo(() => ({ disk, text, context }), [disk, text, context]);
  const guarded = useAnswer(question, async () => await diskWorker().guarded(disk, work, context));
  if (!guarded) return null;
  if (!guarded.ok)
    return (
      <div className="mt-2">
        <p className="mb-1">It does not enter the runbook yet:</p>
        <ProblemList problems={guarded.problems} />
      </div>
    );
  return (
    <p className="mt-2 mb-0">
      {planned ? (
        <>
          In the plan. <Link to={`/moves/${move.reference}/cross`}>Open the runbook</Link>
        </>
      ) : (
        <Button disabled={!editable} onClick={onPut}>
          Add to the runbook
        </Button>
      )}
    </p>
  );
}
