import { useCallback, useEffect, useRef, useState } from 'react';
import { HashRun, type FoundFile, type HashProgress } from './hashRun';

type FolderReading = {
  readonly run: HashRun | undefined;
  readonly progress: HashProgress | undefined;
  readonly start: (files: readonly FoundFile[]) => void;
  readonly forget: () => void;
};

/** One reading of a folder at a time; it is stopped when the page that shows it goes away. */
export function useFolderReading(): FolderReading {
  const [run, setRun] = useState<HashRun>();
  const [progress, setProgress] = useState<HashProgress>();
  const current = useRef<HashRun>(undefined);
  const start = useCallback((files: readonly FoundFile[]) => {
    current.current?.stop();
    const started = new HashRun(files, setProgress);
    current.current = started;
    setRun(started);
  }, []);
  const forget = useCallback(() => {
    current.current?.stop();
    current.current = undefined;
    setRun(undefined);
    setProgress(undefined);
  }, []);
  useEffect(() => () => current.current?.stop(), []);
  return { run, progress, start, forget };
}
