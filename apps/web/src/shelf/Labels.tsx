import type { DriveView } from '@ulvane/contract';
import { printBytes } from '@ulvane/core/quantity';
import { gradeOfMedium, startWords } from './words';

/** One label a medium, on paper only. */
export function Labels({ media }: { readonly media: readonly DriveView[] }) {
  return (
    <ul className="labels" aria-hidden="true">
      {media.map((medium) => (
        <li key={medium.id}>
          <strong>{medium.name}</strong> <span className="mono">{medium.serial}</span>
          {medium.holds.map((content) => (
            <div key={content.title}>
              <strong>{content.title}</strong>
              <br />
              {startWords(content)}; {content.writtenOn}, {content.by}
            </div>
          ))}
          {medium.holds.length === 0 && <div>{medium.seenOn === null ? 'content unknown' : 'empty'}</div>}
          <div>
            {printBytes(medium.capacityBytes, 'decimal')}, {gradeOfMedium(medium).words}
          </div>
          <div>For installers: never a backup.</div>
        </li>
      ))}
    </ul>
  );
}
