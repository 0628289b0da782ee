import { api } from '@ulvane/contract';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate } from 'react-router';
import { call } from '../api/call';
import { Problem } from '../shell/Problem';
import { SurveyIntake } from './SurveyIntake';

/** Starts a move: with a survey, or with nothing known yet. */
export function NewMove() {
  const navigate = useNavigate();
  const [error, setError] = useState<unknown>();
  const start = async (surveyText: string | null): Promise<boolean> => {
    setError(undefined);
    try {
      const { move } = await call(api.addMove, { body: { owner: '', site: '', dueOn: null, surveyText } });
      await navigate(`/moves/${move.reference}/survey`);
      return true;
    } catch (problem) {
      setError(problem);
      return false;
    }
  };
  return (
    <section className="sheet" aria-labelledby="new-move">
      <h2 id="new-move">A new device on the bench?</h2>
      <SurveyIntake reference={null} onTake={({ text }) => start(text)} />
      <p className="small-print mt-2 mb-0">
        No way to run the collector?{' '}
        <Button variant="plain" className="btn-plain" onClick={() => void start(null)}>
          Start a move and enter the facts
        </Button>
      </p>
      <Problem error={error} />
    </section>
  );
}
