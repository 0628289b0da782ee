import { Instant } from '../../shell/Instant';
import { diskMark, type Disk } from '@ulvane/core/survey';
import { DownloadLink } from '../../disk/DownloadLink';
import { useOpenMove } from '../MoveContext';

/** Old sectors that are kept with the move, to be saved again at any time. */
export function Capsules({ disk }: { readonly disk: Disk }) {
  const { move } = useOpenMove();
  const kept = move.capsules.filter((capsule) => capsule.disk === disk.name);
  if (kept.length === 0) return null;
  return (
    <section className="sheet">
      <h2>Undo capsules saved</h2>
      <ul className="check-rows mb-0">
        {kept.map(({ at, by, target, undo }) => (
          <li key={at}>
            Before {target.toUpperCase()}: {undo.writes.length} places, kept by {by}, <Instant at={at} />{' '}
            <DownloadLink
              content={undo}
              name={`${move.reference}-${diskMark(disk).replace('…', '')}-undo-capsule.json`}
            >
              Save it
            </DownloadLink>
          </li>
        ))}
      </ul>
    </section>
  );
}
