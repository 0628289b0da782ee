import { printCount } from '@ulvane/core/quantity';
import { meantBy, segmentsOf } from '@ulvane/core/disk';
import { gibibyteBytes, printBytes } from '@ulvane/core/quantity';
import { deviceTitle, diskOfPlan, type GateReading } from '@ulvane/core/record';
import { routes } from '@ulvane/core/route';
import { type Crossing, type Runbook, type Step } from '@ulvane/core/runbook';
import { diskBytes, diskMark, valueOf } from '@ulvane/core/survey';
import { useState } from 'react';
import { DiskStrip } from '../../drawing/DiskStrip';
import { useSizes } from '../../shell/useSizes';
import { fatesOn } from '../diskFate';
import { useOpenMove } from '../MoveContext';
import { Comparator } from './Comparator';
import { HoldButton } from './HoldButton';

type CrossingCardProps = {
  readonly step: Step;
  readonly number: number;
  readonly runbook: Runbook;
  readonly gates: readonly GateReading[];
  readonly canWrite: boolean;
  readonly onCross: (crossing: Crossing) => void;
};

/** So much of a serial tells two disks of one device apart. */
const serialCharacters = 4;

/** The step at the Line: device, disk and loss in large letters; two entries from the installer's own page; a button that is held. */
export function CrossingCard({ step, number, runbook, gates, canWrite, onCross }: CrossingCardProps) {
  const { move } = useOpenMove();
  const sizes = useSizes();
  const [serialEnd, setSerialEnd] = useState('');
  const [size, setSize] = useState('');
  const { facts } = move;
  const disk = diskOfPlan(move);
  const closed = gates.filter(({ id, state }) => state === 'closed' && id !== 'disk-identified');
  const overruled = gates.filter(({ state }) => state === 'overruled');
  const ending = (disk?.serial ?? '').slice(-serialCharacters);
  const silent = disk?.serial === undefined;
  const answered = gates.some(({ id, state }) => id === 'disk-identified' && state === 'overruled');
  const serialAgrees =
    serialEnd.length < serialCharacters
      ? undefined
      : silent
        ? answered
        : serialEnd.toLowerCase() === ending.toLowerCase();
  const wrong = [...serialEnd].findIndex(
    (sign, index) => sign.toLowerCase() !== ending[index]?.toLowerCase(),
  );
  const shown = sizes.numberIn(size);
  const bytes = disk ? diskBytes(disk) : 0;
  // A size is whole once it has a digit behind the mark, or three before it.
  const isWhole = /[.,]\d/.test(size) || size.replace(/\D/g, '').length >= 3;
  const meaning = shown !== undefined && isWhole ? meantBy(bytes, shown) : undefined;
  const sizeAgrees = shown === undefined || !isWhole ? undefined : meaning !== undefined;
  const expectedSize = (bytes / (meaning === 'GB' ? 1e9 : gibibyteBytes)).toFixed(1);
  const others = (valueOf(facts, 'disks') ?? []).filter((one) => one !== disk);
  const ready = canWrite && closed.length === 0 && serialAgrees === true && sizeAgrees === true;
  return (
    <li className="crossing-card" id={`step-${step.id}`} data-step={step.id} data-state="open">
      <header>
        <h3>
          {number}. {step.title}
        </h3>
        <span className="soft">{step.handsOn.likely} min hands-on</span>
        <span className="ms-auto soft">
          {closed.length === 0
            ? `All ${gates.length} gates are open${overruled.length > 0 ? `, ${overruled.length} of them overruled` : ''}.`
            : `${printCount(closed.length, 'gate')} ${closed.length === 1 ? 'is' : 'are'} closed: ${closed[0]?.title ?? ''}.`}
        </span>
      </header>
      <div className="crossing-body">
        <div className="crossing-plate">
          <strong className="crossing-device">{deviceTitle(facts)}</strong>
          <span className="soft">Serial, on the label</span>
          <strong className="crossing-serial mono">{valueOf(facts, 'serial') ?? 'unknown'}</strong>
          <dl className="crossing-facts">
            <dt>Move</dt>
            <dd className="mono">{move.reference}</dd>
            <dt>Owner</dt>
            <dd>{[move.owner, move.site].filter((part) => part !== '').join(', ') || 'not named'}</dd>
            <dt>Disk of this step</dt>
            <dd>{disk ? `${diskMark(disk)} ${printBytes(bytes, 'decimal')}` : 'unknown'}</dd>
          </dl>
          {disk && (
            <DiskStrip
              name={diskMark(disk)}
              sectorSizeBytes={disk.sectorBytes}
              sectorCount={disk.sectorCount}
              segments={segmentsOf(disk, fatesOn(disk, disk, routes[runbook.routeId].writesOver))}
            />
          )}
        </div>
        <div>
          <Comparator
            number={1}
            label="Type the end of the serial from the installer’s page"
            value={serialEnd}
            expected={ending}
            agrees={serialAgrees}
            sentence={
              silent
                ? answered
                  ? 'The survey has no serial for this disk, and a lead has overruled that: the size decides.'
                  : 'The survey has no serial for this disk: read it from its label, and enter it among the disks on Survey.'
                : serialAgrees
                  ? `${serialCharacters} of ${serialCharacters} characters agree.`
                  : `Character ${wrong + 1} differs: you typed ${serialEnd[wrong] ?? ''}, the survey says ${ending[wrong] ?? ''}. Is it the other disk?`
            }
            from="from the survey"
            maxLength={serialCharacters}
            disabled={!canWrite}
            onValue={setSerialEnd}
          />
          <Comparator
            number={2}
            label="Type the size from the same page"
            value={size}
            expected={expectedSize}
            agrees={sizeAgrees}
            sentence={
              meaning === undefined
                ? `The page shows ${size}; this disk has ${printBytes(bytes, 'decimal')}. Is it the other disk?`
                : meaning === 'GiB'
                  ? 'The page means GiB, whatever unit it writes: the sizes agree.'
                  : 'The page means GB of 1000³: the sizes agree.'
            }
            from={`from the survey: ${bytes.toLocaleString('en')} bytes`}
            maxLength={12}
            disabled={!canWrite}
            onValue={setSize}
          />
          {others.length > 0 && (
            <p className="mb-0">
              <strong>Stop</strong> if the page shows{' '}
              {others.map((one) => `${diskMark(one)} or ${printBytes(diskBytes(one), 'binary')}`).join(', ')}:
              that disk must not be touched.
            </p>
          )}
        </div>
      </div>
      <footer>
        <div>
          <strong className="crossing-loss">
            {(runbook.lineSentence ?? step.title).replace(/^The Line\. /, '')}
          </strong>
          <p className="mb-0">
            {step.why} {step.caution} This cannot be withdrawn afterwards. Once it is recorded, press the
            button in the installer.
          </p>
        </div>
        <HoldButton
          label="Hold to cross the Line"
          disabled={!ready}
          onHeld={() => shown !== undefined && onCross({ serialEnd, sizeShown: shown })}
        />
      </footer>
    </li>
  );
}
