import { useEffect, useState } from 'react';

/** What the work gives once it is done; the last answer for other questions is never shown. */
export function useAnswer<T>(question: object, ask: () => Promise<T>): T | undefined {
  const [answer, setAnswer] = useState<{ readonly to: object; readonly value: T }>();
  useEffect(() => {
    let wanted = true;
    void ask().then((value) => {
      if (wanted) setAnswer({ to: question, value });
    });
    return () => {
      wanted = false;
    };
    // `ask` is made anew with each question.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [question]);
  return answer?.to === question ? answer.value : undefined;
}
