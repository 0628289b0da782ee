import { api, type UnreadableMove } from '@ulvane/contract';
import { brokenSentence, readJson } from '@ulvane/core/outcome';
import { useState } from 'react';
import useSWR from 'swr';
import { z } from 'zod';
import { addressOf, call } from '../api/call';
import { keys } from '../api/keys';
import { Instant } from '../shell/Instant';
import { Problem } from '../shell/Problem';
import { textOfFile } from '../shell/textOfFile';

const RecordSchema = z.looseObject({});

/** Moves whose records cannot be read: exported as they are, repaired, or rolled back. */
export function UnreadableRecords() {
  const { data, error, mutate } = useSWR<{ moves: UnreadableMove[] }, unknown>(keys.unreadableRecords, () =>
    call(api.unreadable),
  );
  const [problem, setProblem] = useState<unknown>();
  const [wrongFile, setWrongFile] = useState<string>();
  const act = async (work: () => Promise<{ moves: UnreadableMove[] }>) => {
    setProblem(undefined);
    setWrongFile(undefined);
    try {
      await mutate(await work(), { revalidate: false });
    } catch (refusal) {
      setProblem(refusal);
    }
  };
  const repair = async (reference: string, file: File | undefined) => {
    if (!file) return;
    const text = readJson(await textOfFile(file));
    if (!text.ok) return setWrongFile(brokenSentence(file.name, text.broken));
    const read = RecordSchema.safeParse(text.value);
    if (!read.success)
      return setWrongFile(
        `${file.name} holds no JSON object: export the record, repair that file, and choose it here.`,
      );
    const record = read.data;
    await act(() => call(api.repairRecord, { params: { reference }, body: { record } }));
  };
  if (data?.moves.length === 0 && problem === undefined) return null;
  return (
    <section className="sheet" aria-labelledby="unreadable">
      <h2 id="unreadable">Records that cannot be read</h2>
      <Problem error={problem ?? error} />
      {wrongFile !== undefined && (
        <div className="notice" role="alert">
          {wrongFile}
        </div>
      )}
      <ul className="check-rows">
        {data?.moves.map(({ reference, device, reason, rollBackTo }) => (
          <li key={reference}>
            <strong>{reference}</strong> {device}
            <span className="small-print d-block">{reason}.</span>
            <span className="d-flex flex-wrap gap-3">
              <a
                href={addressOf(api.rawRecord, { params: { reference } })}
                download={`${reference}-record.json`}
              >
                Export as it is
              </a>
              <label className="btn-plain">
                Import a repaired record
                <input
                  type="file"
                  className="visually-hidden"
                  accept="application/json,.json"
                  onChange={({ target }) => {
                    void repair(reference, target.files?.[0]);
                    target.value = '';
                  }}
                />
              </label>
              {rollBackTo ? (
                <button
                  type="button"
                  className="btn-plain"
                  onClick={() => void act(() => call(api.rollBackRecord, { params: { reference } }))}
                >
                  Roll back to version {rollBackTo.version}, of <Instant at={rollBackTo.until} />
                </button>
              ) : (
                <span className="soft">No earlier version can be read.</span>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
