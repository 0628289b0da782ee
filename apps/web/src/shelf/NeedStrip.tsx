import type { DriveView } from '@ulvane/contract';
import type { Serving } from '@ulvane/core/media';
import { printCount } from '@ulvane/core/quantity';
import { Link } from 'react-router';

const shown = 4;

/** What the next moves use: as it is, compared first, written first. */
export function NeedStrip({
  servings,
  media,
}: {
  readonly servings: readonly Serving[];
  readonly media: readonly DriveView[];
}) {
  if (servings.length === 0)
    return <p className="empty">No move waits for a medium: what is on the shelf may rest.</p>;
  const count = (...hows: readonly Serving['how'][]) =>
    servings.filter(({ how }) => hows.includes(how)).length;
  const ready = count('as-it-is');
  const tasks = count('compare-first', 'write-first', 'fetch-first');
  const missing = count('none');
  return (
    <section className="need-strip" aria-label="What the next moves use">
      <div>
        <strong className="need-count">{printCount(servings.length, 'move')} ahead</strong>
        <span>
          {ready} ready, {tasks} with a task{missing > 0 && `, ${missing} without a medium`}
        </span>
      </div>
      {servings.slice(0, shown).map(({ need, driveId, sentence, again }) => {
        const medium = media.find(({ id }) => id === driveId);
        return (
          <div key={need.reference}>
            <strong>
              <Link to={`/moves/${need.reference}/prepare`}>{need.reference}</Link>{' '}
              <span className="soft">
                {medium ? `${medium.name}${again ? ' again' : ''}` : 'no medium'}
                {need.dueOn !== null && `, due ${need.dueOn}`}
              </span>
            </strong>
            <span>{sentence}</span>
          </div>
        );
      })}
    </section>
  );
}
