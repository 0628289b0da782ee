import type { ShelfView } from '@ulvane/contract';
import { findRelease, releaseTitle, type Catalogue } from '@ulvane/core/catalogue';
import { judgeImage, tagOf, type Serving } from '@ulvane/core/media';
import { printBytes } from '@ulvane/core/quantity';
import { kindNames } from '../drives/words';
import { gradeOfContent, gradeOfMedium, startWords, usedBytes } from './words';

/** The same facts in rows. */
export function ShelfTable({
  shelf,
  servings,
  catalogue,
}: {
  readonly shelf: ShelfView;
  readonly servings: readonly Serving[];
  readonly catalogue: Catalogue;
}) {
  return (
    <>
      <section className="sheet table-scroll">
        <table className="table">
          <caption>Media</caption>
          <thead>
            <tr>
              <th scope="col">Label</th>
              <th scope="col">What is on it</th>
              <th scope="col">How that is known</th>
              <th scope="col" className="number">
                Free
              </th>
              <th scope="col">Needed by</th>
            </tr>
          </thead>
          <tbody>
            {shelf.media.map((medium) => {
              const tag = tagOf(medium, servings);
              return (
                <tr key={medium.id}>
                  <th scope="row">
                    {medium.name} <span className="mono soft">{medium.serial}</span>
                    <div className="small-print">{kindNames[medium.kind]}</div>
                  </th>
                  <td>
                    {medium.holds.map((content) => (
                      <div key={content.title}>
                        {content.title}, {startWords(content)}, {printBytes(content.bytes, 'decimal')};
                        written {content.writtenOn}, {content.by}
                      </div>
                    ))}
                    {medium.holds.length === 0 && (medium.seenOn === null ? 'unknown' : 'empty')}
                  </td>
                  <td>
                    {medium.holds.length === 0
                      ? gradeOfMedium(medium).words
                      : medium.holds.map((content) => gradeOfContent(content).words).join('; ')}
                  </td>
                  <td className="number">
                    {medium.seenOn === null
                      ? 'unknown'
                      : printBytes(Math.max(0, medium.capacityBytes - usedBytes(medium)), 'decimal')}
                  </td>
                  <td>
                    {tag.head}; {tag.detail}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </section>
      <section className="sheet table-scroll">
        <table className="table">
          <caption>Images at hand</caption>
          <thead>
            <tr>
              <th scope="col">Release</th>
              <th scope="col">Kept where</th>
              <th scope="col">Fetched</th>
              <th scope="col" className="number">
                Bytes
              </th>
              <th scope="col">Against what is published</th>
            </tr>
          </thead>
          <tbody>
            {shelf.images.map((image) => {
              const release = findRelease(catalogue, image.releaseId);
              return (
                <tr key={image.id}>
                  <th scope="row">{release ? releaseTitle(release) : image.releaseId}</th>
                  <td>{image.keptWhere}</td>
                  <td>
                    {image.fetchedOn}, {image.by}
                  </td>
                  <td className="number">{image.bytes.toLocaleString('en')}</td>
                  <td>{judgeImage(image, release).sentence}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </section>
    </>
  );
}
