import { Instant } from '../shell/Instant';
import { api } from '@ulvane/contract';
import useSWR from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';
import { Problem } from '../shell/Problem';

/** Who changed house rules, when and how. */
export function HouseRulesHistory() {
  const { data, error } = useSWR(keys.houseRulesHistory, () => call(api.houseRulesHistory));
  return (
    <section className="sheet" aria-labelledby="house-rules-history">
      <h2 id="house-rules-history">Who changed it</h2>
      <Problem error={error} />
      {data?.changes.length === 0 && <p className="mb-0">Nobody yet: it is as it was shipped.</p>}
      <ul className="check-rows">
        {data?.changes.map(({ at, by, sentences }) => (
          <li key={at + sentences.join()}>
            <strong>{by}</strong>, <Instant at={at} />
            {sentences.map((sentence) => (
              <span key={sentence} className="small-print d-block">
                {sentence}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
