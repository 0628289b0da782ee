import type { LogRecord } from '@ulvane/contract';
import { checkChain, recordHashOf, type ChainCheck } from '@ulvane/core/record';
import { createSHA256 } from 'hash-wasm';
import { useEffect, useState } from 'react';

type CheckedHere = ChainCheck & {
  readonly at: string;
  readonly seconds: number;
};

/** Checks a log in this browser: nothing that the server says about it is believed. */
export function useChainCheck(log: LogRecord | undefined, again: number): CheckedHere | undefined {
  const [checked, setChecked] = useState<{
    readonly log: LogRecord;
    readonly again: number;
    readonly result: CheckedHere;
  }>();
  useEffect(() => {
    if (!log) return undefined;
    let left = false;
    const run = async () => {
      const since = performance.now();
      const hasher = await createSHA256();
      const sha256 = (text: string) => hasher.init().update(text).digest('hex');
      const result = checkChain(log.id, log.lines, log.head, recordHashOf(log.record, sha256), sha256);
      if (!left)
        setChecked({
          log,
          again,
          result: { ...result, at: new Date().toISOString(), seconds: (performance.now() - since) / 1000 },
        });
    };
    void run();
    return () => {
      left = true;
    };
  }, [log, again]);
  return checked?.log === log && checked?.again === again ? checked.result : undefined;
}
