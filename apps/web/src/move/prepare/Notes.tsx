import { printInstantIn } from '@ulvane/core/quantity';
import { useZone } from '../../shell/Instant';
import { api } from '@ulvane/contract';
import { activationKinds, type Activation } from '@ulvane/core/catalogue';
import { diskOfDecision, isClosed, runbookInput } from '@ulvane/core/record';
import { routes } from '@ulvane/core/route';
import { encryptedWhen, imageIsFetched } from '@ulvane/core/runbook';
import { valueOf, diskMark } from '@ulvane/core/survey';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { z } from 'zod';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { NoteRow, WordsForm } from './NoteRow';
import { ImageFromShelf } from './FromShelf';
import { RouteNotes } from './RouteNotes';

type Patch = z.input<typeof api.prepare.body>['preparation'];

/** What has been got ready and seen; each note keeps who and when. */
export function Notes() {
  const { view, move, house } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const note = (preparation: Patch) => change(api.prepare, { preparation });
  const { preparation, decision } = move;
  const route = decision ? routes[decision.routeId] : undefined;
  const editable = may.write && !isClosed(move) && !busy;
  const written = diskOfDecision(move);
  const input = runbookInput(move, house);
  const fromStick = decision?.bringing === 'stick' && route?.steps.includes('write-stick') === true;
  const target = route?.hasTarget === true;
  const zone = useZone();
  const stamp = (mark: { readonly by: string; readonly at: string }) =>
    `${mark.by}, ${printInstantIn(zone, mark.at)}`;
  return (
    <section className="sheet">
      <h2>Ready check</h2>
      <Problem error={error} onClose={forgetError} />
      <ul className="check-rows">
        {fromStick && (
          <NoteRow
            title="Installer stick"
            done={
              preparation.stick &&
              `${preparation.stick.name} ${preparation.stick.serial}${preparation.stick.holds ? `, with ${preparation.stick.holds.title} on it` : ''}`
            }
            onBack={editable ? () => note({ stick: null }) : undefined}
          >
            <WordsForm
              labels={['Name of the stick', 'Serial of the stick']}
              disabled={!editable}
              onKeep={([name = '', serial = '']) => note({ stick: { name, serial } })}
            />
          </NoteRow>
        )}
        {decision?.releaseId != null && (preparation.image || (input && imageIsFetched(input))) && (
          <NoteRow
            title="Image"
            done={preparation.image && `${preparation.image.keptWhere} (${stamp(preparation.image)})`}
            onBack={editable ? () => note({ image: null }) : undefined}
          >
            <ImageFromShelf
              releaseId={decision.releaseId}
              disabled={!editable}
              onTake={(image) => note({ image })}
            />
          </NoteRow>
        )}
        {target && (
          <NoteRow
            title="Licence"
            done={
              preparation.licence &&
              `${preparation.licence.kind}, ${preparation.licence.keptWhere} (${stamp(preparation.licence)})`
            }
            onBack={editable ? () => note({ licence: null }) : undefined}
          >
            <LicenceFields
              disabled={!editable}
              onKeep={(kind, keptWhere) => note({ licence: { kind, keptWhere } })}
            />
          </NoteRow>
        )}
        {route?.id !== 'stay' && (
          <NoteRow
            title="Recovery key"
            done={
              preparation.recoveryKey &&
              `${preparation.recoveryKey.keptWhere} (${stamp(preparation.recoveryKey)})`
            }
            onBack={editable ? () => note({ recoveryKey: null }) : undefined}
          >
            <WordsForm
              labels={['Where the recovery key is kept (not the key itself)']}
              disabled={!editable}
              onKeep={([keptWhere = '']) => note({ recoveryKey: { keptWhere } })}
            />
          </NoteRow>
        )}
        {(preparation.passphrase || (input && target && encryptedWhen(input) !== null)) && (
          <NoteRow
            title="Passphrase of the new encryption"
            done={
              preparation.passphrase &&
              `${preparation.passphrase.keptWhere} (${stamp(preparation.passphrase)})`
            }
            onBack={editable ? () => note({ passphrase: null }) : undefined}
          >
            <WordsForm
              labels={['Where the passphrase is kept (not the passphrase itself)']}
              disabled={!editable}
              onKeep={([keptWhere = '']) => note({ passphrase: { keptWhere } })}
            />
          </NoteRow>
        )}
        {(route?.steps.includes('identify-disk') === true || move.diskPlan !== null) && (
          <NoteRow
            title={`Disk, by serial number and size${written ? `: ${diskMark(written)}` : ''}`}
            done={
              preparation.diskMarks &&
              `…${preparation.diskMarks.serialEnd.slice(-4)}, ${preparation.diskMarks.sizeGigabytes} GB (${stamp(preparation.diskMarks)})`
            }
            onBack={editable ? () => note({ diskMarks: null }) : undefined}
          >
            <WordsForm
              labels={['End of the serial number, four characters or more', 'Size on the label, in GB']}
              disabled={!editable}
              onKeep={([serialEnd = '', size = '']) =>
                note({ diskMarks: { serialEnd, sizeGigabytes: Number(size.replace(',', '.')) } })
              }
            />
          </NoteRow>
        )}
        {valueOf(move.facts, 'chassis') !== 'desktop' && (
          <NoteRow
            title="Power"
            done={preparation.power && stamp(preparation.power)}
            onBack={editable ? () => note({ power: null }) : undefined}
          >
            <p className="caution mb-1">
              a battery that is swollen, hot or smells: stop, do not open, call a qualified person.
            </p>
            <Button size="sm" variant="quiet" disabled={!editable} onClick={() => void note({ power: {} })}>
              The charging light is on
            </Button>
          </NoteRow>
        )}
        {target && (
          <NoteRow
            title="Network driver"
            done={
              preparation.networkDriver &&
              `${preparation.networkDriver.how} (${stamp(preparation.networkDriver)})`
            }
            onBack={editable ? () => note({ networkDriver: null }) : undefined}
          >
            <WordsForm
              labels={['How the network will come up, if the driver does not come with the release']}
              disabled={!editable}
              onKeep={([how = '']) => note({ networkDriver: { how } })}
            />
          </NoteRow>
        )}
        {route && <RouteNotes route={route} editable={editable} note={note} stamp={stamp} />}
        {route?.id === 'hold' && (
          <NoteRow
            title="Held until"
            done={preparation.holdUntil}
            onBack={editable ? () => note({ holdUntil: null }) : undefined}
          >
            <WordsForm
              labels={['Last day of the hold']}
              type="date"
              disabled={!editable}
              onKeep={([holdUntil = '']) => note({ holdUntil })}
            />
          </NoteRow>
        )}
      </ul>
      {fromStick && (
        <p className="small-print mb-0">
          For work inside the case the maker’s service manual goes before this page; mains out, static strap
          on.
        </p>
      )}
    </section>
  );
}

type LicenceFieldsProps = {
  readonly disabled: boolean;
  readonly onKeep: (kind: Activation, keptWhere: string) => Promise<boolean>;
};

function LicenceFields({ disabled, onKeep }: LicenceFieldsProps) {
  const { move } = useOpenMove();
  const [kind, setKind] = useState<Activation>(valueOf(move.facts, 'activation') ?? 'digital');
  const [keptWhere, setKeptWhere] = useState('');
  return (
    <form
      className="d-flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void onKeep(kind, keptWhere);
      }}
    >
      <Form.Select
        size="sm"
        aria-label="Kind of licence"
        value={kind}
        onChange={(event) => setKind(activationKinds.find((known) => known === event.target.value) ?? kind)}
        disabled={disabled}
      >
        {activationKinds.map((known) => (
          <option key={known}>{known}</option>
        ))}
      </Form.Select>
      <Form.Control
        size="sm"
        aria-label="Where the licence is kept"
        placeholder="Where it is kept"
        value={keptWhere}
        onChange={(event) => setKeptWhere(event.target.value)}
        disabled={disabled}
        required
      />
      <Button size="sm" variant="quiet" type="submit" disabled={disabled}>
        Note
      </Button>
    </form>
  );
}
