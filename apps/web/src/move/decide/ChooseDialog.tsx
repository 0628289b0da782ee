import { api } from '@ulvane/contract';
import type { InstallerMediumId } from '@ulvane/core/catalogue';
import { contextFor, presentBecomes, type Candidate } from '@ulvane/core/decide';
import { installerMediaFor, routes } from '@ulvane/core/route';
import type { ChosenDisk } from '@ulvane/core/runbook';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useNavigate } from 'react-router';
import { useChange } from '../../api/useMove';
import { Field } from '../../shell/Field';
import { ReasonField } from '../../shell/ReasonField';
import { FormDialog } from '../../shell/FormDialog';
import { useSizes } from '../../shell/useSizes';
import { useOpenMove } from '../MoveContext';
import { DiskChoice, RoomChoice, type RoomText } from './ChosenParts';
import { useDecideInput } from '../readings';

type ChooseDialogProps = {
  readonly candidate: Candidate;
  readonly advised: Candidate;
  readonly onClose: () => void;
};

/** Chooses a route; against the advice with a reason. */
export function ChooseDialog({ candidate, advised, onClose }: ChooseDialogProps) {
  const { view, move } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const navigate = useNavigate();
  const [reason, setReason] = useState('');
  const [waived, setWaived] = useState<ReadonlySet<string>>(new Set());
  const [installerMedium, setInstallerMedium] = useState<InstallerMediumId>('stick');
  const input = useDecideInput();
  const context = contextFor(input, candidate);
  const ways = context ? installerMediaFor(context, routes[candidate.routeId]) : [];
  const way = ways.find((one) => one.installerMedium.id === installerMedium);
  const { consent } = routes[candidate.routeId];
  const isAdvice = candidate === advised;
  const [disk, setDisk] = useState<ChosenDisk | null>(null);
  const isBeside = candidate.routeId === 'beside-same-disk';
  const [room, setRoom] = useState<RoomText>({ size: '', from: '' });
  const { bytesOf } = useSizes();
  const choose = async () => {
    const body = {
      routeId: candidate.routeId,
      releaseId: candidate.releaseId,
      reason: isAdvice ? null : reason,
      installerMedium,
      waivers: [...candidate.waivers, ...candidate.mayWaive]
        .map(({ rule }) => rule)
        .filter((rule) => waived.has(rule)),
      disk,
      room:
        isBeside && room.size !== ''
          ? { bytes: bytesOf(room.size), fromPartition: room.from === '' ? null : Number(room.from) }
          : null,
    };
    if (!(await change(api.choose, body))) return;
    onClose();
    await navigate(`/moves/${move.reference}/save`);
  };
  return (
    <FormDialog
      title={candidate.title}
      action="Choose"
      error={error}
      busy={busy}
      onSubmit={() => void choose()}
      onClose={onClose}
    >
      <p>
        {candidate.loses.length > 0 && (
          <>
            Lost on this route: <strong>{candidate.loses.join(', ')}</strong>.{' '}
          </>
        )}
        {context && presentBecomes(candidate.routeId, context)}
      </p>
      {candidate.waivers.length + candidate.mayWaive.length > 0 && (
        <fieldset className="mb-2">
          <legend className="form-label">Checks to be waived, each by itself</legend>
          {[...candidate.waivers, ...candidate.mayWaive].map(({ rule, sentence, consequence }) => (
            <Form.Check
              key={rule}
              id={`waive-${rule}`}
              checked={waived.has(rule)}
              onChange={({ target }) => {
                const next = new Set(waived);
                if (target.checked) next.add(rule);
                else next.delete(rule);
                setWaived(next);
              }}
              label={
                <>
                  {sentence} <strong>Skipping it: {consequence}</strong>
                  {candidate.mayWaive.some((one) => one.rule === rule) &&
                    ' If this check is not waived, the part is fitted by a step of the runbook.'}
                </>
              }
            />
          ))}
        </fieldset>
      )}
      {consent.length > 0 && (
        <p className="caution">
          the {consent.join(' and the ')} must agree in writing before the Line; note it on Prepare.
        </p>
      )}
      {ways.length > 0 && (
        <Field
          label="How the installer comes"
          hint={way ? `${way.installerMedium.about} ${way.finding.sentence}` : undefined}
        >
          {(ids) => (
            <Form.Select
              {...ids}
              value={installerMedium}
              onChange={({ target }) =>
                setInstallerMedium(
                  ways.find((one) => one.installerMedium.id === target.value)?.installerMedium.id ?? 'stick',
                )
              }
            >
              {ways.map(({ installerMedium: { id, title }, finding }) => (
                <option key={id} value={id} disabled={finding.finding === 'excludes'}>
                  {title}
                  {finding.finding === 'excludes' ? ' (not here)' : ''}
                </option>
              ))}
            </Form.Select>
          )}
        </Field>
      )}
      <DiskChoice candidate={candidate} value={disk} onValue={setDisk} />
      {isBeside && <RoomChoice value={room} onValue={setRoom} />}
      {!isAdvice && (
        <ReasonField
          label="Why, against the advice?"
          hint={`The advice is: ${advised.title}. The reason stays in the log.`}
          value={reason}
          onValue={setReason}
        />
      )}
    </FormDialog>
  );
}
