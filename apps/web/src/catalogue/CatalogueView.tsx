import { daysBetween, releaseTitle, supportedUntil, printBothUnits, type Requirement } from '@ulvane/core';
import { useState } from 'react';
import { useHouse } from '../api/useHouse';
import { useNow } from '../api/useNow';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';
import { requirementText } from './requirementText';

/** Families, releases, models and applications, as they are judged by. */
export function CatalogueView() {
  const { house, error } = useHouse();
  const today = useNow(60_000).slice(0, 10);
  const [opened, setOpened] = useState<string>();
  if (error !== undefined) return <Problem error={error} />;
  if (!house) return <Loading what="the catalogue" />;
  const { families, releases, models, applications } = house.catalogue;
  return (
    <>
      <title>Catalogue · Ulvane</title>
      <div className="page-head">
        <h1>Catalogue</h1>
        <span className="soft">
          {families.length} families, {releases.length} releases, {models.length} models
        </span>
      </div>
      <div className="columns wide-left">
        <div>
          {families.map((family) => (
            <section className="sheet" key={family.id}>
              <h2>{family.name}</h2>
              <p className="soft">
                {family.about} {family.lockedToMaker && `Only on ${family.lockedToMaker} computers.`}
              </p>
              <table className="table">
                <thead>
                  <tr>
                    <th scope="col">Release</th>
                    <th scope="col" className="number">
                      Fixes until
                    </th>
                    <th scope="col" className="number">
                      Extended
                    </th>
                    <th scope="col" className="number">
                      Days left
                    </th>
                    <th scope="col">Starts in</th>
                    <th scope="col">Licence</th>
                  </tr>
                </thead>
                {releases
                  .filter((release) => release.family === family.id)
                  .map((release) => {
                    const until = supportedUntil(release);
                    const left = until === null ? undefined : daysBetween(today, until);
                    const open = opened === release.id;
                    return (
                      <tbody key={release.id}>
                        <tr>
                          <th scope="row">
                            <button
                              type="button"
                              className="btn-plain"
                              aria-expanded={open}
                              onClick={() => setOpened(open ? undefined : release.id)}
                            >
                              {releaseTitle(release)}
                            </button>
                          </th>
                          <td className="number">{release.fixesUntil ?? 'no end'}</td>
                          <td className="number">{release.extendedUntil ?? '–'}</td>
                          <td className="number">
                            {left === undefined ? '–' : left < 0 ? <strong>{`${-left} over`}</strong> : left}
                          </td>
                          <td>
                            {release.firmwareModes
                              .map((mode) => (mode === 'uefi' ? 'UEFI' : 'legacy'))
                              .join(', ')}
                          </td>
                          <td>{release.activation.join(', ')}</td>
                        </tr>
                        {open && (
                          <tr>
                            <td colSpan={6}>
                              <ul>
                                {release.requirements.map((requirement: Requirement) => (
                                  <li key={requirement.kind}>
                                    {requirementText(requirement)}
                                    {'waiver' in requirement && requirement.waiver !== undefined && (
                                      <span className="soft"> May be skipped: {requirement.waiver}</span>
                                    )}
                                  </li>
                                ))}
                              </ul>
                              <p className="mb-1">
                                Image {printBothUnits(release.imageBytes)}, {release.restarts} restarts,{' '}
                                {release.installMinutes.low} to {release.installMinutes.high} minutes. The
                                installer makes{' '}
                                {release.installerPartitions
                                  .map(({ purpose, sizeBytes }) => `${purpose} ${printBothUnits(sizeBytes)}`)
                                  .join(', ') || 'no partition'}{' '}
                                by itself.
                              </p>
                              <p className="mb-1">
                                Upgrades in place from:{' '}
                                {release.upgradesFrom
                                  .map((id) => releases.find((other) => other.id === id))
                                  .map((other) => (other ? releaseTitle(other) : ''))
                                  .join(', ') || 'nothing'}
                                .
                              </p>
                              <p className="small-print mb-0 text-break">
                                SHA-256 of the image <span className="mono">{release.imageSha256}</span>
                              </p>
                            </td>
                          </tr>
                        )}
                      </tbody>
                    );
                  })}
              </table>
            </section>
          ))}
        </div>
        <div>
          <section className="sheet">
            <h2>Models and their keys</h2>
            <table className="table">
              <thead>
                <tr>
                  <th scope="col">Model</th>
                  <th scope="col">Years</th>
                  <th scope="col">Boot menu</th>
                  <th scope="col">Set-up</th>
                  <th scope="col">Chip</th>
                </tr>
              </thead>
              <tbody>
                {models.map((model) => (
                  <tr key={model.id}>
                    <th scope="row">
                      {model.maker} {model.model}
                    </th>
                    <td className="text-nowrap">
                      {model.fromYear}–{model.toYear}
                    </td>
                    <td>{model.bootMenuKey ?? 'unknown'}</td>
                    <td>{model.setupKey ?? 'unknown'}</td>
                    <td>{model.tpm}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          <section className="sheet">
            <h2>Applications and equivalents</h2>
            <ul className="check-rows">
              {applications.map((application) => (
                <li key={application.id}>
                  <strong>{application.name}</strong>
                  {application.lockedToFamily !== undefined && (
                    <span>
                      {' '}
                      only for {families.find(({ id }) => id === application.lockedToFamily)?.name}
                    </span>
                  )}
                  <div className="soft">
                    {Object.entries(application.equivalents)
                      .filter(([, name]) => name !== application.name)
                      .map(
                        ([family, name]) =>
                          `${families.find(({ id }) => id === family)?.name ?? family}: ${name}`,
                      )
                      .join('; ')}
                  </div>
                </li>
              ))}
            </ul>
          </section>
        </div>
      </div>
    </>
  );
}
