import { api, type LogRecord } from '@ulvane/contract';
import useSWR from 'swr';
import { addressOf, call } from '../api/call';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';
import { useOpenMove } from './MoveContext';

/** The append-only log of the move. */
export function LogView() {
  const { move, view } = useOpenMove();
  const params = { reference: move.reference };
  const { data, error } = useSWR<LogRecord, unknown>(
    `${addressOf(api.events, { params })} ${view.version}`,
    () => call(api.events, { params }),
  );
  if (error !== undefined) return <Problem error={error} />;
  if (!data) return <Loading what="the log" />;
  return (
    <section className="sheet">
      <div className="page-head">
        <h2>Log of {move.reference}</h2>
        <span className="soft">lines are added, never changed</span>
        <a
          className="ms-auto no-print"
          href={addressOf(api.exportMove, { params })}
          download={`${move.reference}.json`}
        >
          Export the whole move as JSON
        </a>
      </div>
      <table className="table">
        <thead>
          <tr>
            <th scope="col">When (UTC)</th>
            <th scope="col">Who</th>
            <th scope="col">What</th>
          </tr>
        </thead>
        <tbody>
          {[...data.lines].reverse().map((event, index) => (
            <tr key={data.lines.length - index}>
              <td className="number">{event.at.slice(0, 16).replace('T', ' ')}</td>
              <td>{event.by}</td>
              <td>{event.sentence}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
