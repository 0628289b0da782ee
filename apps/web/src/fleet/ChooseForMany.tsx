import { printCount } from '@ulvane/core/quantity';
import { api, type ChoiceOutcome } from '@ulvane/contract';
import { releaseTitle, supportDaysLeft } from '@ulvane/core/catalogue';
import { isRouteId, routeIds, routes, type RouteId } from '@ulvane/core/route';
import { useCallback, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { Link } from 'react-router';
import { useSWRConfig } from 'swr';
import { call } from '../api/call';
import { manyKeys } from '../api/keys';
import { useHouse } from '../api/useHouse';
import { Field } from '../shell/Field';
import { Problem } from '../shell/Problem';
import { BatchProgress } from './BatchProgress';
import { isRunning, useBatchRun } from './useBatchRun';
import { useDay } from '../shell/useDay';

const devicesAtOnce = 50;

type ChooseForManyProps = {
  readonly references: readonly string[];
  readonly onClose: (done: boolean) => void;
};

/** One route for many devices: the exceptions are shown before anything is done. */
export function ChooseForMany({ references, onClose }: ChooseForManyProps) {
  const { mutate } = useSWRConfig();
  const { house } = useHouse();
  const today = useDay();
  const [routeId, setRouteId] = useState<RouteId>('in-place-upgrade');
  const [releaseId, setReleaseId] = useState('');
  const [reason, setReason] = useState('');
  const supported = (house?.catalogue.releases ?? []).filter(
    (release) => supportDaysLeft(release, today) >= 0,
  );
  const { hasTarget } = routes[routeId];
  const chosen = hasTarget ? releaseId || (supported[0]?.id ?? '') : null;
  const send = useCallback(
    async (batch: readonly string[], dryRun: boolean) =>
      (
        await call(api.chooseForMany, {
          body: { dryRun, references: [...batch], routeId, releaseId: chosen, reason: reason.trim() || null },
        })
      ).outcomes,
    [routeId, chosen, reason],
  );
  const { run, error, start, stop, forget } = useBatchRun<string, ChoiceOutcome>(devicesAtOnce, send);
  const running = run !== undefined && isRunning(run);
  const can = run?.results.filter(({ outcome }) => outcome === 'chosen') ?? [];
  const exceptions = run?.results.filter(({ outcome }) => outcome === 'refused') ?? [];
  const looks = can.filter(({ sentence }) => sentence.includes('was chosen by'));
  const choose = async () => {
    await start(
      can.map(({ reference }) => reference),
      'real',
    );
    await mutate(manyKeys.moveLists);
  };
  return (
    <Modal show onHide={() => onClose(false)} size="lg" backdrop="static" aria-labelledby="choose-for-many">
      <Modal.Header closeButton>
        <Modal.Title id="choose-for-many" as="h2">
          One route for {references.length} devices
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <Problem error={error} />
        {!run && (
          <>
            <Field label="Route" hint={routes[routeId].about}>
              {(ids) => (
                <Form.Select
                  {...ids}
                  value={routeId}
                  onChange={({ target }) => isRouteId(target.value) && setRouteId(target.value)}
                >
                  {routeIds.map((id) => (
                    <option key={id} value={id}>
                      {routes[id].title}
                    </option>
                  ))}
                </Form.Select>
              )}
            </Field>
            {hasTarget && (
              <Field label="Target">
                {(ids) => (
                  <Form.Select
                    {...ids}
                    value={chosen ?? ''}
                    onChange={({ target }) => setReleaseId(target.value)}
                  >
                    {supported.map((release) => (
                      <option key={release.id} value={release.id}>
                        {releaseTitle(release)}
                      </option>
                    ))}
                  </Form.Select>
                )}
              </Field>
            )}
            <Field
              label="Why, where it is not the advice"
              hint="Stays in the log of each device that is advised otherwise; without it those are left out."
            >
              {(ids) => (
                <Form.Control
                  {...ids}
                  as="textarea"
                  rows={2}
                  value={reason}
                  onChange={({ target }) => setReason(target.value)}
                />
              )}
            </Field>
          </>
        )}
        {run && <BatchProgress run={run} what="devices" onStop={stop} />}
        {run && !running && (
          <>
            <p>
              {run.kind === 'dry'
                ? `${can.length} can use it, ${exceptions.length} cannot.`
                : `Chosen for ${printCount(can.length, 'device')}${exceptions.length > 0 ? `, ${exceptions.length} refused` : ''}.`}
            </p>
            <OutcomeList title="Left out, and why" outcomes={exceptions} />
            {run.kind === 'dry' && (
              <OutcomeList title="Worth a look: another route was chosen before" outcomes={looks} />
            )}
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        {run?.kind === 'real' && !running ? (
          <Button onClick={() => onClose(true)}>Close</Button>
        ) : (
          <>
            {run && !running && (
              <Button variant="quiet" onClick={forget}>
                Another route
              </Button>
            )}
            <Button variant="quiet" onClick={() => onClose(false)} disabled={running}>
              Cancel
            </Button>
            {run?.kind === 'dry' ? (
              <Button disabled={running || can.length === 0} onClick={() => void choose()}>
                Choose for {can.length} devices
              </Button>
            ) : (
              <Button disabled={!house} onClick={() => void start(references, 'dry')}>
                Show the exceptions
              </Button>
            )}
          </>
        )}
      </Modal.Footer>
    </Modal>
  );
}

function OutcomeList({
  title,
  outcomes,
}: {
  readonly title: string;
  readonly outcomes: readonly ChoiceOutcome[];
}) {
  if (outcomes.length === 0) return null;
  return (
    <>
      <h3>
        {title} ({outcomes.length})
      </h3>
      <ul className="check-rows preview-changes mb-2">
        {outcomes.map(({ reference, device, sentence }) => (
          <li key={reference}>
            <Link to={`/moves/${reference}/decide`}>{reference}</Link> {device}
            <span className="small-print d-block">{sentence}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
