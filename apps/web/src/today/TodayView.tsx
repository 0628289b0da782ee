import { minutesBetween, printCount } from '@ulvane/core/quantity';
import { stageTitles } from '@ulvane/core/record';
import { Link } from 'react-router';
import { useNow } from '../api/useNow';
import { useMay } from '../api/useSession';
import { useToday } from '../api/useToday';
import { NewMove } from '../intake/NewMove';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';
import { whenText } from '../shell/whenText';

const dayWords = {
  hold: 'on hold, off the network, until',
  'fixes-end': 'stays as it is; security updates end on',
  isolation: 'the system beside stays off the network after',
  trial: 'the trial ends on',
  'go-back': 'the upgrade can be taken back until',
} as const;

/** What needs a hand next, across moves. */
export function TodayView() {
  const { today, error } = useToday();
  const now = useNow();
  const may = useMay();
  if (error !== undefined && !today) return <Problem error={error} />;
  if (!today) return <Loading what="what is next up" />;
  return (
    <>
      <title>Today · Ulvane</title>
      <div className="page-head">
        <h1>Today</h1>
        <span className="soft">
          {printCount(today.open, 'open move')}
          {today.running > 0 &&
            `, ${today.running} of them ${today.running === 1 ? 'runs' : 'run'} by themselves for now`}
        </span>
      </div>
      <div className="columns wide-left">
        <section className="sheet" aria-labelledby="hands">
          <h2 id="hands">Next up</h2>
          {today.hands.length === 0 && <p className="empty">Nothing waits. Drop a survey to start a move.</p>}
          <ol className="hands-list">
            {today.hands.slice(0, 25).map((hand) => {
              const minutes = minutesBetween(now, hand.at);
              return (
                <li key={hand.reference}>
                  <span className={`when${minutes < -0.5 ? ' over' : ''}`}>{whenText(minutes)}</span>
                  <span className="what">
                    <Link to={`/moves/${hand.reference}`}>{hand.sentence}</Link>
                    <br />
                    <span className="soft">
                      {hand.device}, {hand.site || 'no site'} · <span className="mono">{hand.reference}</span>
                    </span>
                    {hand.blockedBecause !== null && (
                      <div className="small-print">Locked: {hand.blockedBecause}</div>
                    )}
                  </span>
                  <span className="soft">{hand.daysLeft === null ? '' : daysText(hand.daysLeft)}</span>
                </li>
              );
            })}
          </ol>
          {today.hands.length > 25 && (
            <p className="mt-2 mb-0">
              <Link to="/fleet?sort=dueOn">All moves, by the day they are due</Link>
            </p>
          )}
        </section>
        <div>
          {may.write && <NewMove />}
          <section className="sheet" aria-labelledby="countdown">
            <h2 id="countdown">Days of security updates left</h2>
            <table className="table">
              <thead>
                <tr>
                  <th scope="col">Present system</th>
                  <th scope="col" className="number">
                    Devices
                  </th>
                  <th scope="col" className="number">
                    Security updates end
                  </th>
                  <th scope="col" className="number">
                    Days left
                  </th>
                </tr>
              </thead>
              <tbody>
                {today.countdown.map(({ release, supportedUntil, daysLeft, count }) => (
                  <tr key={release}>
                    <td>
                      <Link to={`/fleet?search=${encodeURIComponent(release)}`}>{release}</Link>
                    </td>
                    <td className="number">{count}</td>
                    <td className="number">{supportedUntil ?? 'no end'}</td>
                    <td className="number">
                      {daysLeft === null ? (
                        '–'
                      ) : daysLeft < 0 ? (
                        <strong>{`ended ${printCount(-daysLeft, 'day')} ago`}</strong>
                      ) : (
                        daysLeft
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          {today.ahead.length > 0 && (
            <section className="sheet" aria-labelledby="ahead">
              <h2 id="ahead">Days to look again</h2>
              <ul className="check-rows">
                {today.ahead.map(({ reference, device, site, day, why, daysLeft }) => (
                  <li key={reference}>
                    <Link to={`/moves/${reference}`}>{reference}</Link> {device}, {site || 'no site'}:{' '}
                    {dayWords[why]} {day},{' '}
                    {daysLeft < 0 ? (
                      <strong>{`${printCount(-daysLeft, 'day')} overdue`}</strong>
                    ) : (
                      daysText(daysLeft)
                    )}
                  </li>
                ))}
              </ul>
            </section>
          )}
          {today.wipes.length > 0 && (
            <section className="sheet" aria-labelledby="wipes">
              <h2 id="wipes">Backups to be wiped</h2>
              <ul className="check-rows">
                {today.wipes.map(({ reference, label, place, keepUntil, daysLeft }) => (
                  <li key={reference + label}>
                    <Link to={`/moves/${reference}/hand-over`}>{reference}</Link> {label}, {place}: kept until{' '}
                    {keepUntil},{' '}
                    {daysLeft < 0 ? (
                      <strong>{`${printCount(-daysLeft, 'day')} overdue`}</strong>
                    ) : (
                      daysText(daysLeft)
                    )}
                  </li>
                ))}
              </ul>
            </section>
          )}
          <section className="sheet" aria-labelledby="stages">
            <h2 id="stages">Where the moves are</h2>
            <ul className="stage-counts">
              {today.stages.map(({ stage, count }) => (
                <li key={stage}>
                  <Link to={`/fleet?stage=${stage}`}>{stageTitles[stage]}</Link> <b>{count}</b>
                </li>
              ))}
            </ul>
          </section>
        </div>
      </div>
    </>
  );
}

function daysText(days: number): string {
  if (days < 0) return `${printCount(-days, 'day')} late`;
  return days === 0 ? 'due today' : printCount(days, 'day');
}
