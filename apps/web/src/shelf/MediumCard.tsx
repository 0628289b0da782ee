import type { DriveView } from '@ulvane/contract';
import { tagOf, type Serving } from '@ulvane/core/media';
import { printBytes } from '@ulvane/core/quantity';
import { ProofMark } from '../drawing/ProofMark';
import { gradeOfMedium, startWords, usedBytes } from './words';

type MediumCardProps = {
  readonly medium: DriveView;
  readonly servings: readonly Serving[];
  readonly onOpen: () => void;
};

/** A medium on its board with its label towards the reader; what it is needed for hangs below. */
export function MediumCard({ medium, servings, onOpen }: MediumCardProps) {
  const tag = tagOf(medium, servings);
  const { kind, name, serial, holds, seenOn, seenAt, capacityBytes } = medium;
  const unread = seenOn === null;
  const grade = gradeOfMedium(medium);
  const used = usedBytes(medium);
  const [first, ...others] = holds;
  return (
    <li className="medium-place">
      <button type="button" className={`medium is-${kind}${unread ? ' unread' : ''}`} onClick={onOpen}>
        {kind === 'stick' && <Plug />}
        {kind === 'disc' && <Disc />}
        <span className="medium-label">
          <span className="medium-head">
            <strong>{name}</strong>
            <span className="mono soft">{serial === '' ? 'no serial' : serial.slice(-4)}</span>
          </span>
          <strong className="medium-title">
            {first?.title ?? (unread ? 'Content unknown' : 'Empty')}
            {others.length > 0 && ` and ${others.length} more`}
          </strong>
          {first ? (
            <>
              <span>{startWords(first)}</span>
              <span>
                written {first.writtenOn}, {first.by}
              </span>
              {first.skips.length > 0 && <span>skips {first.skips.length} checks</span>}
            </>
          ) : (
            <span>{unread ? 'nobody has looked yet' : `looked at ${seenOn}${seenAt && `, ${seenAt}`}`}</span>
          )}
          <span className="medium-grade">
            <ProofMark mark={grade.mark} label="" /> <strong>{grade.words}</strong>
          </span>
          <strong>
            {unread
              ? `${printBytes(capacityBytes, 'decimal')} in all`
              : kind === 'disc'
                ? 'closed'
                : `${printBytes(Math.max(0, capacityBytes - used), 'decimal')} free`}
          </strong>
        </span>
        {kind !== 'disc' && <Gauge share={unread ? 0 : used / capacityBytes} unread={unread} />}
      </button>
      <span className={`medium-tag ${tag.kind}`}>
        <strong>{tag.head}</strong>
        <span>{tag.detail}</span>
      </span>
    </li>
  );
}

function Plug() {
  return (
    <svg className="medium-plug" viewBox="0 0 42 19" aria-hidden="true">
      <rect x="1" y="1" width="40" height="18" />
      <rect className="pin" x="9" y="7" width="7" height="5" />
      <rect className="pin" x="26" y="7" width="7" height="5" />
    </svg>
  );
}

function Disc() {
  return (
    <svg className="medium-disc" viewBox="0 0 80 80" aria-hidden="true">
      <circle cx="40" cy="40" r="38" />
      <circle cx="40" cy="40" r="32" />
      <circle cx="40" cy="40" r="9" />
    </svg>
  );
}

/** How full it is: dark from below. The free bytes beside it say the same. */
function Gauge({ share, unread }: { readonly share: number; readonly unread: boolean }) {
  const height = 140 * Math.min(1, share);
  return (
    <svg className="medium-gauge" viewBox="0 0 20 142" preserveAspectRatio="none" aria-hidden="true">
      <rect x="4" y="1" width="15" height="140" strokeDasharray={unread ? '2 2' : undefined} />
      <rect className="in-use" x="4" y={141 - height} width="15" height={height} />
      {[0.25, 0.5, 0.75].map((at) => (
        <path key={at} d={`M0 ${1 + 140 * at}H4`} />
      ))}
    </svg>
  );
}
