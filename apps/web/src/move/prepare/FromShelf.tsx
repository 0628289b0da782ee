import { findRelease } from '@ulvane/core/catalogue';
import { judgeImage } from '@ulvane/core/media';
import type { Preparation } from '@ulvane/core/runbook';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { servingsOf, useShelf } from '../../shelf/useShelf';
import { useOpenMove } from '../MoveContext';

/** The stick of the media shelf that serves this move: taken as it is, or what has to be done with it first. */
export function StickFromShelf({
  disabled,
  onTake,
}: {
  readonly disabled: boolean;
  readonly onTake: (stick: NonNullable<Preparation['stick']>) => void;
}) {
  const { move, house } = useOpenMove();
  const { shelf } = useShelf();
  const serving =
    shelf && servingsOf(shelf, house.catalogue).find(({ need }) => need.reference === move.reference);
  const medium = shelf?.media.find(({ id }) => id === serving?.driveId);
  if (!serving || !medium) return null;
  const { content, how, sentence } = serving;
  return (
    <p className="mb-1">
      On the <Link to="/shelf">media shelf</Link>: <strong>{medium.name}</strong>. {sentence}{' '}
      <Button
        size="sm"
        disabled={disabled}
        onClick={() =>
          onTake({
            name: medium.name,
            serial: medium.serial,
            ...(how === 'as-it-is' && content ? { holds: content } : {}),
          })
        }
      >
        Take {medium.name}
      </Button>
    </p>
  );
}

/** Good images of the release on the media shelf. */
export function ImageFromShelf({
  releaseId,
  disabled,
  onTake,
}: {
  readonly releaseId: string;
  readonly disabled: boolean;
  readonly onTake: (image: { readonly releaseId: string; readonly keptWhere: string }) => void;
}) {
  const { house } = useOpenMove();
  const { shelf } = useShelf();
  const release = findRelease(house.catalogue, releaseId);
  const good = (shelf?.images ?? []).filter(
    (image) => image.releaseId === releaseId && judgeImage(image, release).state === 'good',
  );
  return (
    <>
      {good.length === 0 && shelf && (
        <p className="soft mb-1">
          No good image is on the <Link to="/shelf">media shelf</Link>: the runbook has a step that fetches
          it.
        </p>
      )}
      {good.map(({ id, keptWhere }) => (
        <Button
          key={id}
          size="sm"
          variant="quiet"
          disabled={disabled}
          onClick={() => onTake({ releaseId, keptWhere })}
        >
          Use the one kept on {keptWhere}
        </Button>
      ))}
    </>
  );
}
