import { api, type HouseView, type ImageView } from '@ulvane/contract';
import { measuredLine, usualLine } from '@ulvane/core/media';
import { printCount } from '@ulvane/core/quantity';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useSWRConfig } from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';
import { useMay } from '../api/useSession';
import { Problem } from '../shell/Problem';

/** What the line of each site carries: asked once, or measured from the downloads that were timed. */
export function LinesPanel({
  house,
  images,
}: {
  readonly house: HouseView;
  readonly images: readonly ImageView[];
}) {
  const { mutate } = useSWRConfig();
  const may = useMay();
  const [site, setSite] = useState('');
  const [speed, setSpeed] = useState('');
  const [error, setError] = useState<unknown>();
  const { lines } = house.houseRules;
  const timed = (where: string) =>
    images.flatMap(({ bytes, download }) =>
      download?.site === where ? [{ bytes, seconds: download.seconds }] : [],
    );
  const sites = [
    ...new Set([...Object.keys(lines), ...images.flatMap(({ download }) => download?.site ?? [])]),
  ].toSorted();
  const keep = async (where: string, megabits: number) => {
    setError(undefined);
    try {
      await mutate(
        keys.house,
        await call(api.setHouseRules, {
          body: {
            version: house.houseRulesVersion,
            houseRules: { ...house.houseRules, lines: { ...lines, [where.trim()]: megabits } },
          },
        }),
        { revalidate: false },
      );
      setSite('');
      setSpeed('');
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <section className="sheet lines-panel" aria-labelledby="lines-title">
      <h2 id="lines-title">
        Lines of the sites <span className="soft">what a download takes is calculated from them</span>
      </h2>
      <Problem error={error} onClose={() => setError(undefined)} />
      <ul>
        {sites.map((where) => {
          const downloads = timed(where);
          const measured = measuredLine(downloads);
          const stated = lines[where];
          return (
            <li key={where}>
              <strong>{where}</strong>: {stated === undefined ? 'not noted' : `${stated} Mbit/s`}
              {measured !== null && (
                <span className="soft">
                  , {measured} measured over {printCount(downloads.length, 'download')}
                </span>
              )}
              {may.lead && measured !== null && measured !== stated && (
                <>
                  {' '}
                  <button type="button" className="btn-plain" onClick={() => void keep(where, measured)}>
                    Use what was measured
                  </button>
                </>
              )}
            </li>
          );
        })}
        {sites.length === 0 && <li className="soft">None is noted: {usualLine} Mbit/s are taken.</li>}
      </ul>
      {may.lead && (
        <form
          className="d-flex gap-2 align-items-end"
          onSubmit={(event) => {
            event.preventDefault();
            void keep(site, Number(speed.replace(',', '.')));
          }}
        >
          <Form.Group controlId="line-site">
            <Form.Label>Site</Form.Label>
            <Form.Control
              size="sm"
              value={site}
              required
              maxLength={100}
              onChange={({ target }) => setSite(target.value)}
            />
          </Form.Group>
          <Form.Group controlId="line-speed">
            <Form.Label>Mbit/s</Form.Label>
            <Form.Control
              size="sm"
              value={speed}
              required
              inputMode="decimal"
              onChange={({ target }) => setSpeed(target.value)}
            />
          </Form.Group>
          <Button size="sm" type="submit" variant="quiet">
            Note the line
          </Button>
        </form>
      )}
    </section>
  );
}
